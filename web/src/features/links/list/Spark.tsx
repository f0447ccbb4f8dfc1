import { counted } from '../../../parts/format/numbers'

const [width, height] = [72, 20]

/** Clicks of the last thirty days as a line; nothing where there were none. */
export function Spark({ course, color }: { course: readonly number[]; color: string }) {
  const sum = course.reduce((all, day) => all + day, 0)
  if (sum === 0) return null
  const most = Math.max(...course)
  const points = course
    .map((day, i) => `${(i * width) / (course.length - 1)},${height - 1 - (day / most) * (height - 3)}`)
    .join(' ')
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`${counted(sum, 'click')} in the last 30 days`}
    >
      <polyline points={points} fill="none" stroke={color} strokeWidth={1.5} strokeLinejoin="round" />
    </svg>
  )
}
