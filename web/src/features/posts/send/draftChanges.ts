import type { Schema } from '../../../api/client'
import { newRow, type Draft, type Row } from './draft'

/** The draft with a row changed. */
export const withRow = (draft: Draft, id: string, part: Partial<Row>): Draft => ({
  ...draft,
  rows: draft.rows.map((row) => (row.id === id ? { ...row, ...part } : row)),
})

/** The draft with a second row for a channel, behind the first, which is ticked then. */
export const withVariant = (draft: Draft, of: Row): Draft => ({
  ...draft,
  rows: draft.rows.flatMap((row) =>
    row.id === of.id ? [{ ...row, isOn: true }, newRow(of.channel, true)] : [row],
  ),
})

/** The draft without a row. */
export const withoutRow = (draft: Draft, gone: Row): Draft => ({
  ...draft,
  rows: draft.rows.filter((row) => row.id !== gone.id),
})

/** The draft with the tags that its address came with, instead of the channels' own.
 * @param campaign The workspace's campaign of that name; the draft's own stays where there is none. */
export const withPasted = (
  draft: Draft,
  pasted: Schema['PreviewPostPasted'],
  campaign: string | undefined,
): Draft => ({
  ...draft,
  pastedTags: 'replace',
  campaign: campaign ?? draft.campaign,
  rows: draft.rows.map((row) => ({
    ...row,
    source: pasted.source ?? row.source,
    medium: pasted.medium ?? row.medium,
    term: pasted.term ?? row.term,
    content: pasted.content ?? row.content,
  })),
})
