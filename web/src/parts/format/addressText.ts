/** A value of the page's address as text. The router reads "2026" as a number and "true" as yes; both were typed as text. */
export const text = (value: unknown): string | undefined =>
  typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean'
    ? String(value) || undefined
    : undefined

/** An address as people say it, without its scheme. */
export const addressOf = (url: string) => url.replace(/^https?:\/\//, '')
/** The host of an address with its port, as people say it. */
export const hostOf = (url: string) => addressOf(url).split('/')[0]
