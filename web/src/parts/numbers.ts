/** Grouped by the browser's locale. */
export const count = (n: number) => n.toLocaleString()

/** A share of 0 to 1 as a percentage, to one decimal at most, as the browser’s locale writes it. */
export const percent = (share: number) =>
  share.toLocaleString(undefined, { style: 'percent', maximumFractionDigits: 1 })

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
