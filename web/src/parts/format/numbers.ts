let language = 'en-GB'
let zone: string | undefined

/** Writes numbers by this tag, and times by this clock, from now on: the workspace's, as the server's sentences do. */
export function writeAs(tag: string, timeZone: string) {
  language = tag
  zone = timeZone
}

/** A number as the workspace writes numbers. */
export const number = (n: number, options?: Intl.NumberFormatOptions) => n.toLocaleString(language, options)

/** A count, with a sign between thousands. */
export const count = (n: number) => number(n)

/** A share of 0 to 1 as a percentage, to one decimal at most. */
export const percent = (share: number) => number(share, { style: 'percent', maximumFractionDigits: 1 })

/** A relative change with its sign. */
export const change = (value: number) =>
  `${value > 0 ? '+' : value < 0 ? '−' : ''}${percent(Math.abs(value))}`

/** "1 click", "2 clicks". */
export const counted = (n: number, one: string, many = `${one}s`) => `${count(n)} ${n === 1 ? one : many}`

/** A calendar day as people write it: 21 Nov 2026. */
export const day = (iso: string) =>
  new Date(`${iso}T12:00:00Z`).toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    timeZone: 'UTC',
  })

/** The day of a moment by a clock, the workspace's by default, without the year where it is this one. */
export function dayOf(at: string, timeZone = zone) {
  const year = (moment: Date) => moment.toLocaleDateString('en-GB', { year: 'numeric', timeZone })
  const moment = new Date(at)
  return moment.toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'short',
    year: year(moment) === year(new Date()) ? undefined : 'numeric',
    timeZone,
  })
}

/** Time of a moment by the workspace's clock: 14:05. */
export const clockOf = (at: string) =>
  new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', timeZone: zone })

/** Day and time of a moment by the workspace's clock. */
export const timeOf = (at: string) => `${dayOf(at)}, ${clockOf(at)}`

/** How a language writes numbers, by example, with its name. */
export const numbersOf = (tag: string) =>
  `${(1234567.8).toLocaleString(tag)} · ${new Intl.DisplayNames('en-GB', { type: 'language' }).of(tag)}`
