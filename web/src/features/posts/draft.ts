import type { Channel } from '../../api/vocabulary'
import type { Schema } from '../../api/client'

/** One row of the sheet: a channel that the post may go to, ticked or not. */
export interface Row {
  id: string
  channel: string
  isOn: boolean
  variant: string
  source: string
  medium: string
  /** As typed; empty takes the proposed one. */
  slug: string
}

/** A post as it stands in the sheet. Empty texts mean "as proposed". */
export interface Draft {
  destination: string
  title: string
  campaign: string | null
  domain: string | null
  redirect: number
  tags: string[]
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
  slug: '',
})

export const newDraft = (destination: string, channels: Channel[], ticked: string[]): Draft => ({
  destination,
  title: '',
  campaign: null,
  domain: null,
  redirect: 302,
  tags: [],
  rows: channels.map((c) => newRow(c.key, ticked.includes(c.key))),
})

/** The rows that will be saved, in order. */
export const ticked = (draft: Draft) => draft.rows.filter((row) => row.isOn)

const orNull = (text: string) => (text.trim() === '' ? null : text.trim())

/** The request for preview and save. Proposals of the server fill what was not typed. */
export function toRequest(
  draft: Draft,
  proposals?: { title: string; slugs: Map<string, string> },
): Schema['PostRequest'] {
  return {
    title: orNull(draft.title) ?? proposals?.title ?? null,
    destination: draft.destination,
    campaign: draft.campaign,
    domain: draft.domain,
    redirect: draft.redirect,
    tags: draft.tags,
    placements: ticked(draft).map((row) => ({
      channel: row.channel,
      variant: orNull(row.variant),
      source: orNull(row.source),
      medium: orNull(row.medium),
      slug: orNull(row.slug) ?? proposals?.slugs.get(row.id) ?? null,
    })),
  }
}
