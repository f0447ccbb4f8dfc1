import type { Schema } from '../../../api/client'
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
  passQuery: Link['options']['passQuery']
  referrer: Link['options']['referrer']
  hideFromSearch: boolean
  nofollow: boolean
  sponsored: boolean
  newTab: boolean
  anchorText: string
  titleAttribute: string
  pixels: string[]
  handoffDeadline: number | ''
}

/** Milliseconds that ad networks are waited for unless something else is said. */
export const usualWait = 800

/** The same words as in the history. */
export const valueNames: Record<keyof LinkValues, string> = {
  ...fieldNames,
  opensAt: fieldNames.opens,
  endsAt: fieldNames.ends,
  domain: 'Short domain',
  slug: 'Slug',
  passQuery: fieldNames['pass-query'],
  hideFromSearch: fieldNames['hide-from-search'],
  newTab: fieldNames['new-tab'],
  anchorText: fieldNames['anchor-text'],
  titleAttribute: fieldNames['title-attribute'],
  handoffDeadline: fieldNames['handoff-deadline'],
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
  passQuery: link.options.passQuery,
  referrer: link.options.referrer,
  hideFromSearch: link.options.hideFromSearch ?? false,
  nofollow: link.options.nofollow ?? false,
  sponsored: link.options.sponsored ?? false,
  newTab: link.options.newTab ?? false,
  anchorText: link.options.anchorText ?? '',
  titleAttribute: link.options.titleAttribute ?? '',
  pixels: [...link.pixels],
  handoffDeadline: link.options.handoffDeadline ?? '',
})

const options = [
  'passQuery',
  'referrer',
  'hideFromSearch',
  'nofollow',
  'sponsored',
  'newTab',
  'anchorText',
  'titleAttribute',
] as const

/** Which fields differ. */
export const changedFields = (before: LinkValues, after: LinkValues) =>
  (Object.keys(before) as Array<keyof LinkValues>).filter(
    (field) => JSON.stringify(before[field]) !== JSON.stringify(after[field]),
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
  const switched = Object.fromEntries(options.filter((o) => changed.has(o)).map((o) => [o, after[o]]))
  const wait = changed.has('handoffDeadline')
    ? { handoffDeadline: after.handoffDeadline === '' ? usualWait : after.handoffDeadline }
    : {}
  const changedOptions = { ...switched, ...wait }
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
