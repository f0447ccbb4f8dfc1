import type { Channel } from '../../../api/vocabulary'
import type { Schema } from '../../../api/client'

/** What becomes of UTM values that stand in the pasted address. */
export type PastedTags = NonNullable<Schema['PostRequest']['pastedTags']>

/** Settings of a link, or of all links of a post; what is absent comes from the next level up. */
export interface PostSettings {
  domain?: string
  redirect?: number
  slugKind?: NonNullable<Schema['PlacementRequest']['slugKind']>
  tags?: string[]
  note?: string
  folder?: string
  /** When it opens and ends, as the API takes it. */
  opensAt?: string
  endsAt?: string
  /** Ids of retargeting pixels. */
  pixels?: string[]
  options?: Partial<Schema['LinkOptionsPatch']>
  /** By which visitors are led to other pages; without rules and pages for none, where all rows have some. */
  routes?: Schema['RouteBody']
}

/** One row of the sheet: a channel that the post may go to, ticked or not. */
export interface Row {
  id: string
  channel: string
  isOn: boolean
  variant: string
  source: string
  medium: string
  term: string
  content: string
  /** As typed; empty takes the proposed one. */
  slug: string
  /** What this row wants otherwise than the rest. */
  own: PostSettings
}

/** A post as it stands in the sheet. Empty texts mean "as proposed". */
export interface Draft {
  /** Under which the server keeps it. */
  id: string
  destination: string
  title: string
  campaign: string | null
  pastedTags: PastedTags
  all: PostSettings
  rows: Row[]
}

let lastRow = 0

export const newRow = (channel: string, isOn: boolean): Row => ({
  id: `row-${++lastRow}`,
  channel,
  isOn,
  variant: '',
  source: '',
  medium: '',
  term: '',
  content: '',
  slug: '',
  own: {},
})

export const newDraft = (destination: string, channels: Channel[], ticked: string[]): Draft => ({
  id: crypto.randomUUID(),
  destination,
  title: '',
  campaign: null,
  pastedTags: 'replace',
  all: {},
  rows: channels.map((c) => newRow(c.key, ticked.includes(c.key))),
})

/** The rows that will be saved, in order. */
export const ticked = (draft: Draft) => draft.rows.filter((row) => row.isOn)

/** Whether anything stands in the sheet that somebody would miss. */
export const isWorthKeeping = (draft: Draft) => draft.destination.trim() !== '' || draft.title.trim() !== ''

const orNull = (text: string) => (text.trim() === '' ? null : text.trim())

/** The request for preview, save and draft. Proposals of the server fill what was not typed. */
export function toRequest(
  draft: Draft,
  proposals?: { title: string; slugs: Map<string, string> },
): Schema['PostRequest'] {
  const { slugKind, ...all } = draft.all
  return {
    title: orNull(draft.title) ?? proposals?.title ?? null,
    destination: draft.destination,
    campaign: draft.campaign,
    pastedTags: draft.pastedTags,
    ...all,
    placements: ticked(draft).map(({ own, ...row }) => ({
      channel: row.channel,
      variant: orNull(row.variant),
      source: orNull(row.source),
      medium: orNull(row.medium),
      term: orNull(row.term),
      content: orNull(row.content),
      slug: orNull(row.slug) ?? proposals?.slugs.get(row.id) ?? null,
      ...own,
      slugKind: own.slugKind ?? slugKind ?? null,
    })),
  }
}

/** The sheet as a kept request left it: its rows ticked, the other channels waiting below. */
export function fromRequest(request: Schema['PostRequest'], channels: Channel[]): Omit<Draft, 'id'> {
  const placements = (request.placements ?? []).filter((p) => channels.some((c) => c.key === p.channel))
  const kinds = new Set(placements.map((p) => p.slugKind ?? null))
  const sharedKind = kinds.size === 1 ? ([...kinds][0] ?? undefined) : undefined
  const rows = placements.map((p) => ({
    ...newRow(p.channel ?? '', true),
    variant: p.variant ?? '',
    source: p.source ?? '',
    medium: p.medium ?? '',
    term: p.term ?? '',
    content: p.content ?? '',
    slug: p.slug ?? '',
    own: { ...settingsOf(p), ...(sharedKind || !p.slugKind ? {} : { slugKind: p.slugKind }) },
  }))
  const order = new Map(channels.map((c, i) => [c.key, i]))
  const waiting = channels
    .filter((c) => !placements.some((p) => p.channel === c.key))
    .map((c) => newRow(c.key, false))
  return {
    destination: request.destination ?? '',
    title: request.title ?? '',
    campaign: request.campaign ?? null,
    pastedTags: request.pastedTags ?? 'replace',
    all: { ...settingsOf(request), ...(sharedKind ? { slugKind: sharedKind } : {}) },
    rows: [...rows, ...waiting].toSorted((a, b) => (order.get(a.channel) ?? 0) - (order.get(b.channel) ?? 0)),
  }
}

function settingsOf(from: Schema['PostRequest'] | Schema['PlacementRequest']): PostSettings {
  const { domain, redirect, tags, note, folder, opensAt, endsAt, pixels, options, routes } = from
  return Object.fromEntries(
    Object.entries({ domain, redirect, tags, note, folder, opensAt, endsAt, pixels, options, routes }).filter(
      ([, value]) => value != null,
    ),
  )
}

/** Puts a recipe into the sheet: its rows and settings, while page, title, campaign and time stay: those are of the post that it was made from. */
export function withRecipe(draft: Draft, recipe: Schema['PostRequest'], channels: Channel[]): Draft {
  const { rows, all } = fromRequest(recipe, channels)
  const { opensAt, endsAt } = draft.all
  return {
    ...draft,
    rows: rows.map((row) => ({ ...row, own: withoutTime(row.own) })),
    all: { ...withoutTime(all), ...(opensAt ? { opensAt } : {}), ...(endsAt ? { endsAt } : {}) },
  }
}

const withoutTime = (settings: PostSettings): PostSettings =>
  Object.fromEntries(Object.entries(settings).filter(([name]) => name !== 'opensAt' && name !== 'endsAt'))

/** How many settings stand in an object, to be shown where they are hidden in a panel. */
export const countSettings = ({ options, ...others }: PostSettings) =>
  Object.values(others).filter((v) => v !== undefined).length +
  Object.values(options ?? {}).filter((v) => v != null).length
