import type { Schema } from '../../../api/client'

interface Named {
  title: string
  shortUrl: string
  options?: Schema['LinkOptions']
}

/** What people read of the link: its own text where it has one, else its title. */
const textOf = ({ title, options }: Named) => options?.anchorText ?? title

/** The link as HTML, for web pages and mail editors, with the relation, title and target that its options say. */
export function asHtml(link: Named) {
  const { options } = link
  // A page in a new tab must not get hold of the one it was opened from (HTML Standard, link type noopener).
  const relations = [
    options?.nofollow && 'nofollow',
    options?.sponsored && 'sponsored',
    options?.newTab && 'noopener',
  ]
  const attributes = {
    href: link.shortUrl,
    rel: relations.filter(Boolean).join(' '),
    target: options?.newTab ? '_blank' : '',
    title: options?.titleAttribute ?? '',
  }
  const written = Object.entries(attributes).flatMap(([name, value]) =>
    value ? `${name}="${escaped(value)}"` : [],
  )
  return `<a ${written.join(' ')}>${escaped(textOf(link))}</a>`
}

const escaped = (text: string) =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;')

/** The link as Markdown; characters that would end the text early are escaped. */
export const asMarkdown = (link: Named) => `[${textOf(link).replace(/[[\]\\]/g, '\\$&')}](${link.shortUrl})`

/** Rows as CSV (RFC 4180), for spreadsheets: a field that begins like a formula is kept from being one. */
export const asCsv = (rows: ReadonlyArray<readonly string[]>) =>
  rows.map((row) => row.map(csvField).join(',')).join('\r\n') + '\r\n'

function csvField(text: string) {
  const safe = /^[=+\-@\t\r]/.test(text) ? `'${text}` : text
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe
}
