import '@mantine/charts/styles.css'
import { AreaChart, LineChart } from '@mantine/charts'
import { useMediaQuery } from '@mantine/hooks'
import type { Schema } from '../../../api/client'
import { useChannelLooks } from '../../../api/vocabulary'
import classes from '../compare/Compare.module.css'
import { CourseTooltip } from './CourseTooltip'
import { pointsOf } from './coursePoints'
import type { Breakdown } from '../question/question'
import { channelPaint } from '../../../parts/channelPaint'
import { count } from '../../../parts/format/numbers'

const lines = 6
const mostMarks = 40

interface Props {
  answer: Breakdown
  series: Schema['SeriesReportResponse']
  isStacked: boolean
}

/** The leading groups over time, with the days on which posts went out. The table serves as its text. */
export function CourseChart({ answer, series, isStacked }: Props) {
  const channels = useChannelLooks()
  // On a phone the names of the lines need more than one row.
  const isNarrow = useMediaQuery('(max-width: 48em)')
  const shown = answer.rows.filter((row) => row.clicks > 0).slice(0, lines)
  const points = pointsOf(series, shown)
  const color = (key: string, i: number) => {
    const channel = answer.by === 'channel' ? channels.get(key) : undefined
    return channelPaint(channel, `var(--channel-${i})`)
  }
  const marks = points.filter((point) => point.posts.length > 0)
  const shared = {
    h: isNarrow ? 330 : 280,
    data: points,
    dataKey: 'at',
    series: shown.map((row, i) => ({ name: row.label, color: color(row.key, i) })),
    curveType: 'monotone',
    withDots: false,
    strokeWidth: 2,
    withLegend: true,
    legendProps: { verticalAlign: 'bottom', height: isNarrow ? 96 : 46 },
    tickLine: 'none',
    gridAxis: 'x',
    valueFormatter: count,
    referenceLines:
      marks.length <= mostMarks
        ? marks.map(({ at }) => ({ x: at, color: 'var(--mantine-color-dimmed)', strokeDasharray: '2 4' }))
        : [],
    tooltipProps: {
      content: ({ label }: { label?: unknown }) => (
        <CourseTooltip point={points.find((p) => p.at === label)} shown={shown} color={color} />
      ),
    },
  } as const
  const margin = { left: 0, right: 24, top: 6 }
  return (
    <div aria-hidden className={classes.chart}>
      {marks.length > 0 && marks.length <= mostMarks && (
        <span className={classes.postKey}>
          <i /> post published
        </span>
      )}
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
  )
}
