import { listOf, asList } from '../filter/linksSearch'

/** What the table of links can show beside the link itself and its clicks, with the order that a click on the heading asks for. */
export const columns = {
  destination: 'Destination',
  campaign: 'Campaign',
  tags: 'Tags',
  course: '30 days',
  lastClick: 'Last click',
  state: 'State',
} as const

export type Column = keyof typeof columns

export const sortOf: Partial<Record<Column | 'link' | 'clicks', string>> = {
  link: 'title',
  destination: 'destination',
  campaign: 'campaign',
  tags: 'tags',
  course: 'recent-clicks',
  state: 'state',
  lastClick: 'last-click',
  clicks: 'clicks',
}

/** Orders that headings don't offer, for the list beside them. */
export const sorts = [
  { value: 'newest', label: 'Newest first' },
  { value: 'oldest', label: 'Oldest first' },
  { value: 'changed', label: 'Last changed first' },
  { value: 'clicks', label: 'Most clicks first' },
  { value: 'recent-clicks', label: 'Most clicks in 30 days' },
  { value: 'last-click', label: 'Last clicked first' },
  { value: 'title', label: 'By title' },
  { value: 'address', label: 'By short address' },
  { value: 'channel', label: 'By channel' },
  { value: 'campaign', label: 'By campaign' },
]

const isColumn = (name: string): name is Column => name in columns

export const hiddenOf = (without: string | undefined): Column[] => listOf(without).filter(isColumn)

/** Shows a column, or hides it. */
export function toggled(without: string | undefined, column: Column) {
  const hidden = hiddenOf(without)
  return asList(hidden.includes(column) ? hidden.filter((c) => c !== column) : [...hidden, column])
}

/** The order after a click on a heading: its own, then the other way round. */
export const turned = (sort: string | undefined, order: string) => (sort === order ? `-${order}` : order)
