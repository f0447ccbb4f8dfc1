import type { Link } from './links'

/** Consecutive links of one post, under its heading. */
export interface Group {
  key: string
  post: Link['post']
  links: Link[]
}

export function groupByPost(links: Link[]): Group[] {
  const groups: Group[] = []
  for (const link of links) {
    const key = link.post?.id ?? 'single'
    const last = groups.at(-1)
    if (last?.key === key) last.links.push(link)
    else groups.push({ key, post: link.post, links: [link] })
  }
  return groups
}
