import { useCallback, useMemo, useState } from 'react'
import type { Selection } from '../links'
import { filterOf, type LinksSearch } from '../filter/linksSearch'

/** Rows that were picked out: some by hand, or all that are found but for a few. */
export interface Picked {
  isAll: boolean
  /** The picked ones; where all are, those left out. */
  ids: ReadonlySet<string>
}

export const nobody: Picked = { isAll: false, ids: new Set() }

export const has = (picked: Picked, id: string) => picked.isAll !== picked.ids.has(id)

export const countOf = (picked: Picked, total: number) =>
  picked.isAll ? Math.max(0, total - picked.ids.size) : picked.ids.size

/** Picks rows, or leaves them. */
export function withRows(picked: Picked, ids: readonly string[], isPicked: boolean): Picked {
  const changed = new Set(picked.ids)
  for (const id of ids)
    if (isPicked !== picked.isAll) changed.add(id)
    else changed.delete(id)
  return { ...picked, ids: changed }
}

/** The picked links as the API takes them. What is done to all that were found says how many there were, so that nothing is done to others. */
export const selectionOf = (picked: Picked, search: LinksSearch, total: number): Selection =>
  picked.isAll
    ? { filter: filterOf(search), except: [...picked.ids], expected: total }
    : { ids: [...picked.ids] }

/** What is picked out in the list. Another list begins with nothing picked. */
export function useSelection(search: LinksSearch, total: number) {
  const of = JSON.stringify(filterOf(search))
  const [state, setState] = useState({ of, picked: nobody })
  const picked = state.of === of ? state.picked : nobody
  const set = useCallback((next: Picked) => setState({ of, picked: next }), [of])
  return useMemo(
    () => ({
      picked,
      count: countOf(picked, total),
      has: (id: string) => has(picked, id),
      pick: (ids: readonly string[], isPicked: boolean) => set(withRows(picked, ids, isPicked)),
      pickAll: () => set({ isAll: true, ids: new Set() }),
      clear: () => set(nobody),
    }),
    [picked, total, set],
  )
}

export type SelectedLinks = ReturnType<typeof useSelection>
