import type { Schema } from '../../../api/client'
import { linkOptions, type LinkOption } from '../../../api/linkOptions'

/** What the fields of a link are called in its history. */
export const fieldNames = {
  address: 'Short address',
  title: 'Title',
  destination: 'Destination',
  fallback: 'Fallback',
  opens: 'Opens',
  ends: 'Ends',
  channel: 'Channel',
  campaign: 'Campaign',
  source: 'Source',
  medium: 'Medium',
  term: 'Term',
  content: 'Content',
  redirect: 'Redirect',
  route: 'Rules',
  'saved-route': 'Saved route',
  note: 'Note',
  folder: 'Folder',
  tags: 'Tags',
  pixels: 'Pixels',
  'brought-along': 'Imported clicks',
  archived: 'Archived',
  deleted: 'Deleted',
  ...(Object.fromEntries(linkOptions.map((o) => [o.field, o.name])) as Record<LinkOption['field'], string>),
} satisfies Record<Schema['LinkField'], string>
