import '@mantine/charts/styles.css'
import { LineChart } from '@mantine/charts'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, read } from '../../api/client'
import { useChannels } from '../../api/vocabulary'
import { day } from '../../parts/numbers'
import { Failed, Loading } from '../../parts/States'
import classes from './Compare.module.css'
import type { Asked, Breakdown } from './question'

const lines = 6

interface Props {
  answer: Breakdown
  asked: Asked
}

/** The leading groups over time. Its figures stand in the table, which serves as its text. */
export default function Course({ answer, asked }: Props) {
  const channels = useChannels()
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
  const data = series.data.points.map((point) => ({
    at: day(point.at).replace(/ \d{4}$/, ''),
    ...Object.fromEntries(shown.map((row) => [row.label, point.clicks[row.key] ?? 0])),
  }))
  const color = (key: string, i: number) => {
    const channel = answer.by === 'channel' ? channels.get(key) : undefined
    return `var(--channel-${channel?.color ?? i})`
  }
  return (
    <section className={classes.leaf} aria-label="Course">
      <h2 className={classes.heading}>Course, by {isLong ? 'week' : 'day'}</h2>
      <div aria-hidden className={classes.chart}>
        <LineChart
          h={260}
          data={data}
          dataKey="at"
          series={shown.map((row, i) => ({ name: row.label, color: color(row.key, i) }))}
          curveType="monotone"
          withDots={false}
          strokeWidth={2}
          withLegend
          legendProps={{ verticalAlign: 'bottom', height: 46 }}
          tickLine="none"
          gridAxis="y"
          valueFormatter={(n) => n.toLocaleString()}
          lineChartProps={{ accessibilityLayer: false, margin: { left: 0, right: 24, top: 6 } }}
          lineProps={{ isAnimationActive: false }}
        />
      </div>
    </section>
  )
}
