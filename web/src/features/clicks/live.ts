import { useSyncExternalStore } from 'react'
import { within } from '../../api/address'
import type { Schema } from '../../api/client'

type Arrivals = Schema['Arrivals']

/** What arrived at one link since this page was opened. */
export type Arrived = Omit<Schema['LinkArrivals'], 'link'>

interface Live {
  /** People's clicks of the last ten minutes; unknown until the server has said. */
  people: number | undefined
  /** False while the connection is lost; the browser tries again by itself. */
  isOpen: boolean
  links: ReadonlyMap<string, Arrived>
}

const nothing: Live = { people: undefined, isOpen: false, links: new Map() }

let live = nothing
const listeners = new Set<() => void>()

function become(next: Live) {
  live = next
  listeners.forEach((tell) => tell())
}

/** What was known, with what has just arrived. */
export function withArrivals(before: Live, arrivals: Arrivals): Live {
  const links = new Map(before.links)
  for (const { link, ...now } of arrivals.links) {
    const earlier = links.get(link)
    links.set(link, {
      ...now,
      people: now.people + (earlier?.people ?? 0),
      team: now.team + (earlier?.team ?? 0),
      others: now.others + (earlier?.others ?? 0),
    })
  }
  return { ...before, people: (before.people ?? 0) + arrivals.people, links }
}

/** Watches clicks arrive, over one connection for the whole application, until the returned function is called. */
export function watch(onArrivals: (links: string[]) => void): () => void {
  const events = new EventSource(within('/api/v1/clicks/live'))
  events.onopen = () => become({ ...live, isOpen: true })
  events.onerror = () => become({ ...live, isOpen: false })
  events.addEventListener('recent', (event: MessageEvent<string>) => {
    const { people } = JSON.parse(event.data) as { people: number }
    become({ ...live, people })
  })
  events.addEventListener('arrivals', (event: MessageEvent<string>) => {
    const arrivals = JSON.parse(event.data) as Arrivals
    become(withArrivals(live, arrivals))
    onArrivals(arrivals.links.map(({ link }) => link))
  })
  return () => {
    events.close()
    become(nothing)
  }
}

const subscribe = (listener: () => void) => {
  listeners.add(listener)
  return () => {
    listeners.delete(listener)
  }
}

export const useLive = () => useSyncExternalStore(subscribe, () => live)

/** What arrived at one link since this page was opened; undefined where nothing did. */
export const useArrived = (link: string) => useSyncExternalStore(subscribe, () => live.links.get(link))
