import { dayOf } from './numbers'

/** When links open and end, by the workspace's clock: "2026-11-29T18:00", or "2026-11-29" for a whole day, as the API takes it. */

const midnight = 'T00:00'

/** A moment by a clock: 2026-11-29T18:00. */
function byClock(at: Date, zone: string) {
  // Swedish writes days and times as ISO 8601 does, but for the T.
  const parts = new Intl.DateTimeFormat('sv-SE', {
    timeZone: zone,
    dateStyle: 'short',
    timeStyle: 'short',
  })
  return parts.format(at).replace(' ', 'T')
}

/** The day before: links that end at midnight end with it. */
const dayBefore = (day: string) =>
  new Date(Date.parse(`${day}T12:00:00Z`) - 86_400_000).toISOString().slice(0, 10)

/** When a link opens, as a form holds it; empty where it is open from its making. */
export function openingOf(at: string | null, zone: string) {
  const time = at ? byClock(new Date(at), zone) : ''
  return time.endsWith(midnight) ? time.slice(0, -midnight.length) : time
}

/** When a link ends, as a form holds it; the last day where it ends at midnight. */
export function endOf(at: string | null, zone: string) {
  const time = at ? byClock(new Date(at), zone) : ''
  return time.endsWith(midnight) ? dayBefore(time.slice(0, -midnight.length)) : time
}

/** Day and time of a bound, as people write it: 29 Nov 2026, 18:00. */
export function boundText(bound: string) {
  const [day = '', time] = bound.split('T')
  const words = dayOf(`${day}T12:00Z`, 'UTC')
  return time ? `${words}, ${time}` : words
}
