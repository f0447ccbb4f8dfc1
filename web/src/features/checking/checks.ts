import { queryOptions, type QueryClient } from '@tanstack/react-query'
import { api, read, type Schema } from '../../api/client'

export type CarePage = Schema['NeedsCareResponse']
export type Verdict = CarePage['verdict']
export type CheckSettings = Schema['HowLinksAreCheckedResponse']

/** Pages that need care, the most clicked first; or those that are ignored. */
export const careQuery = (ignored: boolean) =>
  queryOptions({
    queryKey: ['link-checks', 'care', ignored],
    queryFn: () => read(api.GET('/api/v1/link-checks', { params: { query: { ignored, limit: 100 } } })),
    refetchInterval: 15_000,
  })

export const checkSummaryQuery = queryOptions({
  queryKey: ['link-checks', 'summary'],
  queryFn: () => read(api.GET('/api/v1/link-checks/summary')),
  refetchInterval: 30_000,
})

export const checkSettingsQuery = queryOptions({
  queryKey: ['link-checks', 'settings'],
  queryFn: () => read(api.GET('/api/v1/link-checks/settings')),
})

/** Everything that tells of pages and of links to them. */
export const checksChanged = (queries: QueryClient) =>
  Promise.all([['link-checks'], ['links']].map((queryKey) => queries.invalidateQueries({ queryKey })))

/** What was found, in a word; the colour only repeats it. */
export const verdicts: Record<Verdict, { label: string; color: string }> = {
  'not-yet': { label: 'Not checked yet', color: 'var(--mantine-color-dimmed)' },
  fine: { label: 'Fine', color: 'var(--good)' },
  redirected: { label: 'Moved', color: 'var(--caution)' },
  changed: { label: 'Changed', color: 'var(--caution)' },
  gone: { label: 'Gone', color: 'var(--bad)' },
  failing: { label: 'Failing', color: 'var(--bad)' },
  closed: { label: 'Blocks checkers', color: 'var(--mantine-color-dimmed)' },
}
