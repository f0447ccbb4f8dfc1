import { count } from '../../../parts/format/numbers'
import classes from './CourseTooltip.module.css'
import type { CoursePoint } from './coursePoints'
import type { BreakdownRow } from '../question/question'

interface Props {
  point: CoursePoint | undefined
  shown: BreakdownRow[]
  color: (key: string, i: number) => string
}

const mostPosts = 4

/** All values of one day, and what went out on it. */
export function CourseTooltip({ point, shown, color }: Props) {
  if (!point) return null
  return (
    <div className={classes.tooltip}>
      <b>{point.at}</b>
      {shown.map((row, i) => (
        <div key={row.key}>
          <i style={{ background: color(row.key, i) }} />
          <span>{row.label}</span>
          <span>{count(Number(point[row.label] ?? 0))}</span>
        </div>
      ))}
      {point.posts.slice(0, mostPosts).map((post) => (
        <em key={post.id}>Published: {post.title}</em>
      ))}
      {point.posts.length > mostPosts && <em>and {count(point.posts.length - mostPosts)} more</em>}
    </div>
  )
}
