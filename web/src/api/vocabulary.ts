import { queryOptions, useQuery } from '@tanstack/react-query'
import { createContext, useContext } from 'react'
import { api, read, type Schema } from './client'

export type Channel = Schema['ChannelsResponse']
export type Campaign = Schema['CampaignsResponse']
export type Tag = Schema['TagsResponse']
export type Domain = Schema['DomainsResponse']
export type Folder = Schema['FoldersResponse']
export type Recipe = Schema['RecipesResponse']

const all = { params: { query: { limit: 500 } } }

/** The workspace's agreed words. They change rarely and are asked for everywhere. */
export const vocabulary = {
  channels: queryOptions({
    queryKey: ['channels'],
    queryFn: () => read(api.GET('/api/v1/channels', all)).then((page) => page.items),
  }),
  campaigns: queryOptions({
    queryKey: ['campaigns'],
    queryFn: () => read(api.GET('/api/v1/campaigns', all)).then((page) => page.items),
  }),
  tags: queryOptions({
    queryKey: ['tags'],
    queryFn: () => read(api.GET('/api/v1/tags', all)).then((page) => page.items),
  }),
  workspace: queryOptions({
    queryKey: ['workspace'],
    queryFn: () => read(api.GET('/api/v1/workspace')),
  }),
  folders: queryOptions({
    queryKey: ['folders'],
    queryFn: () => read(api.GET('/api/v1/folders', all)).then((page) => page.items),
  }),
  recipes: queryOptions({
    queryKey: ['recipes'],
    queryFn: () => read(api.GET('/api/v1/recipes', all)).then((page) => page.items),
  }),
  routes: queryOptions({
    queryKey: ['routes'],
    queryFn: () => read(api.GET('/api/v1/routes', all)).then((page) => page.items),
  }),
  domains: queryOptions({
    queryKey: ['domains'],
    queryFn: () => read(api.GET('/api/v1/domains', all)).then((page) => page.items),
  }),
}

/** The agreed terms and contents. */
export const agreedValuesQuery = queryOptions({
  queryKey: ['agreed-values'],
  queryFn: () => read(api.GET('/api/v1/agreed-values', all)).then((page) => page.items),
})

/** What signets and colours need to know of a channel. */
export type ChannelLook = Pick<Channel, 'key' | 'name' | 'signet' | 'color' | 'ownColor'>

/** Channels that are known without asking, where the reader has no account. */
export const KnownChannels = createContext<ReadonlyMap<string, ChannelLook> | undefined>(undefined)

/** Looks of channels by key, for signets and colours; empty while loading. */
export function useChannelLooks(): ReadonlyMap<string, ChannelLook> {
  const known = useContext(KnownChannels)
  const { data } = useQuery({ ...vocabulary.channels, select: byKey, enabled: !known })
  return known ?? data ?? noChannels
}

/** Channels by key; empty while loading. */
export function useChannels(): ReadonlyMap<string, Channel> {
  const { data } = useQuery({ ...vocabulary.channels, select: byKey })
  return data ?? noChannels
}

const noChannels: ReadonlyMap<string, Channel> = new Map()
const byKey = (channels: Channel[]) => new Map(channels.map((channel) => [channel.key, channel]))
