import { text } from '../../../parts/format/addressText'

/** What the Links view is narrowed to, as its address holds it. Lists are written with commas; see {@link listOf}. */
export interface LinksSearch {
  query?: string
  campaign?: string
  channel?: string
  tag?: string
  /** "any" of the tags; all of them where left out. */
  tags?: 'any'
  folder?: string
  domain?: string
  /** Ids of the members who made them. */
  by?: string
  since?: string
  until?: string
  /** Id of a pixel, "any" or "none". */
  pixels?: string
  state?: LinksState
  /** Id of a page in the link check that they lead to. */
  page?: string
  /** Id of the batch that made them. */
  batch?: string
  sort?: string
  view?: 'flat'
  /** Columns that are not shown. */
  without?: string
}

export const states = {
  live: 'Live',
  scheduled: 'Scheduled',
  ended: 'Ended',
  'never-clicked': 'Never clicked',
  dead: 'Broken destination',
  archived: 'Archived',
  deleted: 'Deleted',
  all: 'All but deleted',
} as const

export type LinksState = keyof typeof states

/** Stands for links in no folder. */
export const noFolder = '*none'

/** What narrows the links; the rest of the address says how they are shown. */
export const filters = [
  'query',
  'campaign',
  'channel',
  'tag',
  'tags',
  'folder',
  'domain',
  'by',
  'since',
  'until',
  'pixels',
  'state',
  'batch',
  'page',
] as const

/** Reads the view's address; what it doesn't know is passed over. */
export function readLinksSearch(search: Record<string, unknown>): LinksSearch {
  const state = text(search.state)
  const read = Object.fromEntries(filters.map((name) => [name, text(search[name])]))
  return {
    ...read,
    tags: search.tags === 'any' ? 'any' : undefined,
    state: state && state in states ? (state as LinksState) : undefined,
    sort: text(search.sort),
    without: text(search.without),
    view: search.view === 'flat' ? 'flat' : undefined,
  }
}

/** The values of a list in the address; a comma within one of them is written as %2C. */
export const listOf = (list: string | undefined): string[] =>
  list ? list.split(',').map((value) => value.replaceAll('%2C', ',').replaceAll('%25', '%')) : []

/** Values as a list in the address; nothing for none. */
export const asList = (values: readonly string[]): string | undefined =>
  values.map((value) => value.replaceAll('%', '%25').replaceAll(',', '%2C')).join(',') || undefined

/** The filter as the API takes it, in queries and in bodies alike. */
export function filterOf(search: LinksSearch) {
  const several = (list: string | undefined) => (list ? listOf(list) : undefined)
  return {
    query: search.query,
    tag: several(search.tag),
    tags: search.tags,
    campaign: several(search.campaign),
    channel: several(search.channel),
    domain: several(search.domain),
    folder: several(search.folder)?.map((name) => (name === noFolder ? '' : name)),
    by: several(search.by),
    since: search.since,
    until: search.until,
    pixels: search.pixels,
    batch: search.batch,
    page: search.page,
    state: search.state,
  }
}

export const isNarrowed = (search: LinksSearch) => filters.some((name) => search[name] !== undefined)

/** The filter as it is kept under a name: the same however it was come by. */
export const keptFilter = (search: LinksSearch) =>
  new URLSearchParams(
    filters.flatMap((name) => (search[name] === undefined ? [] : [[name, String(search[name])]])),
  ).toString()

/** The view's address for a kept filter. */
export const fromKeptFilter = (kept: string): LinksSearch =>
  readLinksSearch(Object.fromEntries(new URLSearchParams(kept)))
