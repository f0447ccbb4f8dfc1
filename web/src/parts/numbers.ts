let language = 'en-GB'

/** Writes numbers by this tag from now on: the workspace’s, as the server’s sentences do. */
export const writeNumbersIn = (tag: string) => {
  language = tag
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

/** The day of a moment by the browser's clock, without the year where it is this one. */
export const dayOf = (at: string) =>
  new Date(at).toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'short',
    year: new Date(at).getFullYear() === new Date().getFullYear() ? undefined : 'numeric',
  })

/** Time of a moment by the browser's clock: 14:05. */
export const clockOf = (at: string) =>
  new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })

/** Day and time of a moment by the browser's clock. */
export const timeOf = (at: string) => `${dayOf(at)}, ${clockOf(at)}`
