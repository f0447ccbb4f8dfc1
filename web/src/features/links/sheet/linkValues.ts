import type { Schema } from '../../../api/client'
import { linkOptions, type LinkOption } from '../../../api/linkOptions'
import type { LinkOptionsPatch } from '../../../parts/LinkOptionFields'
import { endOf, openingOf } from '../../../parts/format/linkTime'
import { fieldNames } from './fieldNames'
import type { Link } from '../links'

type Change = Schema['EditLinkRequest']

/** A link as its form holds it; nothing is an empty text. */
export interface LinkValues {
  title: string
  destination: string
  fallback: string
  opensAt: string
  endsAt: string
  domain: string
  slug: string
  tags: string[]
  folder: string | null
  note: string
  channel: string | null
  campaign: string | null
  source: string
  medium: string
  term: string
  content: string
  redirect: string
  pixels: string[]
  options: LinkOptionsPatch
}

/** A field of the form; options by their own names. */
type Field = Exclude<keyof LinkValues, 'options'> | LinkOption['key']

/** The same words as in the history. */
export const valueNames: Record<Field, string> = {
  ...fieldNames,
  opensAt: fieldNames.opens,
  endsAt: fieldNames.ends,
  domain: 'Short domain',
  slug: 'Slug',
  ...(Object.fromEntries(linkOptions.map((o) => [o.key, o.name])) as Record<LinkOption['key'], string>),
}

/** @param zone By whose clock it opens and ends. */
export const valuesOf = (link: Link, zone: string): LinkValues => ({
  title: link.title,
  destination: link.destination,
  fallback: link.fallback ?? '',
  opensAt: openingOf(link.opensAt, zone),
  endsAt: endOf(link.endsAt, zone),
  domain: link.domain,
  slug: link.slug,
  tags: [...link.tags],
  folder: link.folder,
  note: link.note ?? '',
  channel: link.channel,
  campaign: link.campaign,
  source: link.source ?? '',
  medium: link.medium ?? '',
  term: link.term ?? '',
  content: link.content ?? '',
  redirect: String(link.redirect),
  pixels: [...link.pixels],
  options: Object.fromEntries(linkOptions.map((o) => [o.key, link.options[o.key] ?? nothing(o)])),
})

/** An option about which nothing is said. */
const nothing = (option: LinkOption) => ({ choice: null, switch: false, text: '', number: null })[option.kind]

/** What a field holds. */
export const valueOf = (values: LinkValues, field: Field) =>
  field in values
    ? values[field as Exclude<keyof LinkValues, 'options'>]
    : values.options[field as LinkOption['key']]

const fields = (values: LinkValues) =>
  [...Object.keys(values).filter((key) => key !== 'options'), ...linkOptions.map((o) => o.key)] as Field[]

/** Which fields differ. */
export const changedFields = (before: LinkValues, after: LinkValues) =>
  fields(before).filter(
    (field) => JSON.stringify(valueOf(before, field)) !== JSON.stringify(valueOf(after, field)),
  )

/** What was changed, and nothing else, as the API takes it: so much of a colleague's work as this doesn't touch stays. */
export function changedParts(before: LinkValues, after: LinkValues): Change {
  const changed = new Set(changedFields(before, after))
  const plain = (
    field:
      | 'title'
      | 'destination'
      | 'fallback'
      | 'opensAt'
      | 'endsAt'
      | 'domain'
      | 'slug'
      | 'note'
      | 'source'
      | 'medium'
      | 'term'
      | 'content',
  ) => (changed.has(field) ? { [field]: after[field] } : {})
  const changedOptions = Object.fromEntries(
    linkOptions
      .filter((o) => changed.has(o.key))
      // Where nothing is said of a number, it is the usual one again.
      .map((o) => [o.key, after.options[o.key] ?? o.usual]),
  )
  return {
    ...plain('title'),
    ...plain('destination'),
    ...plain('fallback'),
    ...plain('opensAt'),
    ...plain('endsAt'),
    ...plain('domain'),
    ...plain('slug'),
    ...plain('note'),
    ...plain('source'),
    ...plain('medium'),
    ...plain('term'),
    ...plain('content'),
    ...(changed.has('channel') ? { channel: after.channel ?? '' } : {}),
    ...(changed.has('campaign') && after.campaign ? { campaign: after.campaign } : {}),
    ...(changed.has('redirect') ? { redirect: Number(after.redirect) } : {}),
    ...(changed.has('tags') ? { tags: after.tags } : {}),
    ...(changed.has('pixels') ? { pixels: after.pixels } : {}),
    ...(changed.has('folder') ? { folder: after.folder ?? '' } : {}),
    ...(Object.keys(changedOptions).length > 0 ? { options: changedOptions } : {}),
  }
}
