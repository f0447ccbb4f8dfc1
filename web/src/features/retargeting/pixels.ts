import { queryOptions } from '@tanstack/react-query'
import { api, read, type Schema } from '../../api/client'
import { count } from '../../parts/format/numbers'

export type Pixel = Schema['PixelsResponse']
export type Audience = Schema['PixelAudienceResponse']
export type Outcomes = Schema['OutcomeCount']

export const pixelsQuery = queryOptions({
  queryKey: ['pixels'],
  queryFn: () =>
    read(api.GET('/api/v1/pixels', { params: { query: { limit: 500 } } })).then((page) => page.items),
})

export const networksQuery = queryOptions({
  queryKey: ['ad-networks'],
  queryFn: () => read(api.GET('/api/v1/ad-networks')).then((page) => page.items),
})

export const pixelQuery = (id: string) =>
  queryOptions({
    queryKey: ['pixels', id],
    queryFn: () => read(api.GET('/api/v1/pixels/{id}', { params: { path: { id } } })),
  })

export const usualWindow = 28

/** What an audience is looked at by. */
export const parts = { campaign: 'campaign', channel: 'channel', link: 'link' } as const

export type PartBy = keyof typeof parts

export const audienceQuery = (id: string, days: number = usualWindow, by: PartBy = 'campaign') =>
  queryOptions({
    queryKey: ['pixels', id, 'audience', days, by],
    queryFn: () =>
      read(api.GET('/api/v1/pixels/{id}/audience', { params: { path: { id }, query: { days, by } } })),
  })

/** How visits ended for a pixel, in the words and the order in which they are shown. */
export const outcomes = [
  { key: 'fired', label: 'fired', color: 'var(--good)' },
  { key: 'missed', label: 'deadline missed', color: 'var(--caution)' },
  { key: 'declined', label: 'declined', color: 'var(--bad)' },
  { key: 'optedOut', label: 'opted out', color: 'var(--channel-8)' },
] as const satisfies Array<{ key: keyof Outcomes; label: string; color: string }>

/** All visits, however they ended. */
export const visitsOf = (of: Outcomes) => outcomes.reduce((sum, { key }) => sum + of[key], 0)

/** A number that comes from sketches. */
export const about = (n: number) => `about ${count(n)}`
