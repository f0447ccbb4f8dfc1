import type { Link } from '../links'

/** One line of the table: a post's heading, or a link. */
export type Line =
  | { kind: 'heading'; key: string; post: Link['post']; links: Link[] }
  | { kind: 'link'; key: string; link: Link; isUnderPost: boolean }

/** Consecutive links of one post under its heading, or all links as they come. */
export function linesOf(links: Link[], isFlat: boolean): Line[] {
  const lines: Line[] = []
  let heading: Extract<Line, { kind: 'heading' }> | undefined
  for (const link of links) {
    const of = link.post?.id ?? 'single'
    if (!isFlat && (!heading || (heading.post?.id ?? 'single') !== of)) {
      heading = { kind: 'heading', key: `${of} ${link.id}`, post: link.post, links: [] }
      lines.push(heading)
    }
    heading?.links.push(link)
    lines.push({ kind: 'link', key: link.id, link, isUnderPost: !isFlat && link.post !== null })
  }
  return lines
}
