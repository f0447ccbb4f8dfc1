import { Text } from '@mantine/core'
import { count, counted, day } from '../../../parts/format/numbers'
import type { Link } from '../links'
import classes from '../list/LinksPage.module.css'

/** People's clicks of one link: the sum, and the last thirty days as bars. */
export function LinkFigures({ link, color }: { link: Link; color: string }) {
  const course = link.course ?? []
  const most = Math.max(1, ...course)
  const recent = counted(
    course.reduce((sum, clicks) => sum + clicks, 0),
    'click',
  )
  return (
    <div className={classes.figures}>
      <div>
        <div className={classes.big}>{count(link.clicks)}</div>
        <Text size="sm" c="dimmed">
          {link.clicks === 1 ? 'click' : 'clicks'} by people
        </Text>
        {link.broughtAlong !== null && (
          <Text size="sm" c="dimmed" title="Counted before the link was imported; not part of any report">
            {count(link.broughtAlong)} imported
          </Text>
        )}
      </div>
      <div>
        <div className={classes.bars} role="img" aria-label={`${recent} in the last 30 days`}>
          {course.map((clicks, i) => (
            <i
              key={i}
              title={`${daysAgo(course.length - 1 - i)}: ${counted(clicks, 'click')}`}
              style={{
                height: `${(100 * clicks) / most}%`,
                background: color,
                opacity: clicks ? 1 : 0.3,
              }}
            />
          ))}
        </div>
        <Text size="xs" c="dimmed">
          {recent} in the last 30 days
        </Text>
      </div>
    </div>
  )
}

const daysAgo = (days: number) => day(new Date(Date.now() - days * 86_400_000).toISOString().slice(0, 10))
