import { useDebouncedValue } from '@mantine/hooks'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, read, type Schema } from '../../../api/client'
import { ticked, toRequest, type Draft } from './draft'

export type PreviewRow = Schema['PreviewPostRow']

/** What saving would make of one row, with what is wrong with each of its fields. */
export type RowPreview = PreviewRow & { errors: (field: string) => string | undefined }

/** Asks the server what saving this draft would make, now. */
export const askPreview = (draft: Draft) =>
  read(api.POST('/api/v1/posts/preview', { body: toRequest(draft) }))

/** What saving would make of the draft, asked of the server while typing: one request for all rows. */
export function usePreview(draft: Draft) {
  const [settled] = useDebouncedValue(draft, 120)
  const request = toRequest(settled)
  const preview = useQuery({
    queryKey: ['preview', request],
    queryFn: () => askPreview(settled),
    enabled: settled.destination.trim() !== '' || ticked(settled).length > 0,
    placeholderData: keepPreviousData,
    staleTime: 0,
    gcTime: 10_000,
  })
  const rows = ticked(settled)
  const byRow = new Map<string, RowPreview>()
  preview.data?.placements.forEach((row, i) => {
    const of = rows[i]
    if (of)
      byRow.set(of.id, {
        ...row,
        errors: (field) => preview.data?.errors[`placements[${i}].${field}`]?.join(' '),
      })
  })
  return {
    proposedTitle: preview.data?.proposedTitle ?? '',
    destination: preview.data?.destination ?? null,
    pasted: preview.data?.pasted ?? null,
    errors: preview.data?.errors ?? {},
    rows: byRow,
    error: preview.error,
    refetch: preview.refetch,
  }
}
