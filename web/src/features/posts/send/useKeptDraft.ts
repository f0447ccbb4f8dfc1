import { useDebouncedValue } from '@mantine/hooks'
import { queryOptions, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { api, read } from '../../../api/client'
import { isWorthKeeping, toRequest, type Draft } from './draft'

export const draftsQuery = queryOptions({
  queryKey: ['drafts'],
  queryFn: () =>
    read(api.GET('/api/v1/drafts', { params: { query: { limit: 20 } } })).then((page) => page.items),
})

export const keep = (draft: Draft) =>
  read(api.PUT('/api/v1/drafts/{id}', { params: { path: { id: draft.id } }, body: toRequest(draft) }))

export const discard = (id: string) => read(api.DELETE('/api/v1/drafts/{id}', { params: { path: { id } } }))

/** Keeps the draft on the server while it is typed, so that closing the tab loses nothing. Returns whether it is, what keeps it at once, and what lets it go. */
export function useKeptDraft(draft: Draft) {
  const [settled] = useDebouncedValue(draft, 700)
  const queries = useQueryClient()
  const begun = useRef(draft)
  const isOver = useRef(false)
  const [isKept, setIsKept] = useState(false)

  useEffect(() => {
    if (isOver.current || settled === begun.current || !isWorthKeeping(settled)) return
    // A draft that can't be kept now is kept with the next change; what is typed stays on the screen meanwhile.
    keep(settled)
      .then(() => {
        if (!isOver.current) setIsKept(true)
        return queries.invalidateQueries({ queryKey: ['drafts'] })
      })
      .catch(() => undefined)
  }, [settled, queries])

  return {
    isKept,
    keepNow: async () => {
      isOver.current = true
      await keep(draft)
      await queries.invalidateQueries({ queryKey: ['drafts'] })
    },
    letGo: async () => {
      isOver.current = true
      await discard(draft.id).catch(() => undefined)
      await queries.invalidateQueries({ queryKey: ['drafts'] })
    },
  }
}
