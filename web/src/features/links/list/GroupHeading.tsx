import { Link as RouterLink } from '@tanstack/react-router'
import { counted, day } from '../../../parts/format/numbers'
import type { Link } from '../links'
import classes from './LinksTable.module.css'
import type { SelectedLinks } from './useSelection'
import { Checkbox } from '@mantine/core'

interface Props {
  post: Link['post']
  links: Link[]
  wide: number
  selection: SelectedLinks
}

/** The post that the links below belong to, with their sum. */
export function GroupHeading({ post, links, wide, selection }: Props) {
  const sum = links.reduce((clicks, link) => clicks + link.clicks, 0)
  const title = post?.title ?? 'Individual links'
  const picked = links.filter((link) => selection.has(link.id)).length
  return (
    <tr className={classes.heading}>
      <td className={classes.pick}>
        <Checkbox
          size="xs"
          aria-label={`Select all of ${title}`}
          checked={picked === links.length}
          indeterminate={picked > 0 && picked < links.length}
          onChange={() =>
            selection.pick(
              links.map((link) => link.id),
              picked < links.length,
            )
          }
        />
      </td>
      <th scope="rowgroup" colSpan={wide - 1}>
        <h2>
          {post ? (
            <RouterLink to="/posts/$postId" params={{ postId: post.id }}>
              {title}
            </RouterLink>
          ) : (
            title
          )}
        </h2>
        <small>
          {post && `${post.campaign} · ${day(post.publishedOn)} · `}
          {counted(links.length, post ? 'placement' : 'link')} · {counted(sum, 'click')}
        </small>
      </th>
    </tr>
  )
}
