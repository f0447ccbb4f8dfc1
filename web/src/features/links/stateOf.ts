import type { Link } from './links'

/** What is to be known of a link at a glance. */
export const stateOf = (link: Pick<Link, 'deletedAt' | 'archivedAt' | 'clicks'>) =>
  link.deletedAt ? 'deleted' : link.archivedAt ? 'archived' : link.clicks === 0 ? 'never clicked' : 'live'
