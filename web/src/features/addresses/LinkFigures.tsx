import { Text } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { api, read } from '../../api/client'
import { count, counted, day } from '../../parts/numbers'
import type { Link } from './links'
import classes from './LinksPage.module.css'

/** People's clicks of one link: the sum, and the last 28 days as bars. */
export function LinkFigures({ link, color }: { link: Link; color: number }) {
  const course = useQuery({
    queryKey: ['series', 'link', link.id, link.clicks],
    queryFn: () =>
      read(
        api.GET('/api/v1/reports/series', {
          params: { query: { by: 'link', link: [link.id], step: 'day' } },
        }),
      ),
  })
  const days = (course.data?.points ?? []).map((point) => ({
    at: point.at,
    clicks: point.clicks[link.id] ?? 0,
  }))
  const most = Math.max(1, ...days.map((d) => d.clicks))
  const recent = days.reduce((sum, d) => sum + d.clicks, 0)
  return (
    <div className={classes.figures}>
      <div>
        <div className={classes.big}>{count(link.clicks)}</div>
        <Text size="sm" c="dimmed">
          {link.clicks === 1 ? 'click' : 'clicks'} by people
        </Text>
      </div>
      <div>
        <div
          className={classes.bars}
          role="img"
          aria-label={`${counted(recent, 'click')} in the last 28 days`}
        >
          {days.map((d) => (
            <i
              key={d.at}
              title={`${day(d.at)}: ${counted(d.clicks, 'click')}`}
              style={{
                height: `${(100 * d.clicks) / most}%`,
                background: `var(--channel-${color})`,
                opacity: d.clicks ? 1 : 0.3,
              }}
            />
          ))}
        </div>
        <Text size="xs" c="dimmed">
          {counted(recent, 'click')} in the last 28 days
        </Text>
      </div>
    </div>
  )
}
