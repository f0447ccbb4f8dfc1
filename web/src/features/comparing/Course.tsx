import '@mantine/charts/styles.css'
import { AreaChart, LineChart } from '@mantine/charts'
import { SegmentedControl } from '@mantine/core'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { api, read } from '../../api/client'
import { useChannels } from '../../api/vocabulary'
import { Failed, Loading } from '../../parts/States'
import classes from './Compare.module.css'
import { CourseTooltip } from './CourseTooltip'
import { pointsOf } from './coursePoints'
import type { Asked, Breakdown, Question } from './question'

const lines = 6
const most = 40

interface Props {
  answer: Breakdown
  asked: Asked
  question: Question
}

/** The leading groups over time, with the days on which posts went out. Its figures stand in the table, which serves as its text. */
export default function Course({ answer, asked, question }: Props) {
  const channels = useChannels()
  const navigate = useNavigate()
  const isLong = (Date.parse(answer.to) - Date.parse(answer.from)) / 86_400_000 > 120
  const series = useQuery({
    queryKey: ['series', asked, isLong],
    queryFn: () =>
      read(
        api.GET('/api/v1/reports/series', { params: { query: { ...asked, step: isLong ? 'week' : 'day' } } }),
      ),
    placeholderData: keepPreviousData,
  })
  if (series.isError) return <Failed error={series.error} onRetry={() => void series.refetch()} />
  if (!series.data) return <Loading rows={5} />
  const shown = answer.rows.filter((row) => row.clicks > 0).slice(0, lines)
  const points = pointsOf(series.data, shown)
  const withPosts = points.filter((point) => point.posts.length > 0)
  const color = (key: string, i: number) => {
    const channel = answer.by === 'channel' ? channels.get(key) : undefined
    return `var(--channel-${channel?.color ?? i})`
  }
  const isStacked = question.course === 'stacked'
  const shared = {
    h: 280,
    data: points,
    dataKey: 'at',
    series: shown.map((row, i) => ({ name: row.label, color: color(row.key, i) })),
    curveType: 'monotone',
    withDots: false,
    strokeWidth: 2,
    withLegend: true,
    legendProps: { verticalAlign: 'bottom', height: 46 },
    tickLine: 'none',
    gridAxis: 'y',
    valueFormatter: (n: number) => n.toLocaleString(),
    referenceLines:
      withPosts.length <= most
        ? withPosts.map(({ at }) => ({ x: at, color: 'var(--mantine-color-dimmed)', strokeDasharray: '2 4' }))
        : [],
    tooltipProps: {
      content: ({ label }: { label?: unknown }) => (
        <CourseTooltip point={points.find((p) => p.at === label)} shown={shown} color={color} />
      ),
    },
  } as const
  const margin = { left: 0, right: 24, top: 6 }
  return (
    <section className={classes.leaf} aria-label="Course">
      <div className={classes.crossing}>
        <h2 className={classes.heading}>Course, by {isLong ? 'week' : 'day'}</h2>
        <SegmentedControl
          size="xs"
          aria-label="How the course is drawn"
          value={isStacked ? 'stacked' : 'lines'}
          data={[
            { value: 'lines', label: 'Side by side' },
            { value: 'stacked', label: 'Stacked' },
          ]}
          onChange={(value) =>
            void navigate({
              to: '/compare',
              search: { ...question, course: value === 'stacked' ? 'stacked' : undefined },
              resetScroll: false,
            })
          }
        />
        {withPosts.length > 0 && withPosts.length <= most && (
          <span className={classes.postKey}>
            <i aria-hidden /> a post went out
          </span>
        )}
      </div>
      <div aria-hidden className={classes.chart}>
        {isStacked ? (
          <AreaChart
            {...shared}
            type="stacked"
            fillOpacity={0.55}
            areaChartProps={{ accessibilityLayer: false, margin }}
            areaProps={{ isAnimationActive: false }}
          />
        ) : (
          <LineChart
            {...shared}
            lineChartProps={{ accessibilityLayer: false, margin }}
            lineProps={{ isAnimationActive: false }}
          />
        )}
      </div>
    </section>
  )
}
