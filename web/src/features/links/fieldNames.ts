import type { Schema } from '../../api/client'

/** What the fields of a link are called in its history. */
export const fieldNames: Record<Schema['LinkField'], string> = {
  address: 'Short address',
  title: 'Title',
  destination: 'Destination',
  campaign: 'Campaign',
  source: 'Source',
  medium: 'Medium',
  term: 'Term',
  content: 'Content',
  redirect: 'Redirect',
  'pass-query': 'Visitors’ parameters',
  referrer: 'Referrer',
  'hide-from-search': 'Hidden from search engines',
  nofollow: 'HTML: nofollow',
  sponsored: 'HTML: sponsored',
  'new-tab': 'HTML: new tab',
  'title-attribute': 'Title attribute',
  'anchor-text': 'Text in HTML',
  'handoff-deadline': 'Wait for ad networks',
  note: 'Note',
  folder: 'Folder',
  tags: 'Tags',
  pixels: 'Pixels',
  archived: 'Archived',
  deleted: 'Deleted',
}
