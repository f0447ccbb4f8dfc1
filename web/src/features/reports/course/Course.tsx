import { SegmentedControl } from '@mantine/core'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { api, read } from '../../../api/client'
import { Failed, Loading } from '../../../parts/States'
import classes from '../compare/Compare.module.css'
import { CourseChart } from './CourseChart'
import type { Asked, Breakdown, Question } from '../question/question'

interface Props {
  answer: Breakdown
  asked: Asked
  question: Question
}

/** The answer's course over time; how it is drawn is held by the address. */
export function Course({ answer, asked, question }: Props) {
  const navigate = useNavigate()
  const series = useQuery({
    queryKey: ['series', asked],
    queryFn: () =>
      read(api.GET('/api/v1/reports/series', { params: { query: { ...asked, step: 'usual' } } })),
    placeholderData: keepPreviousData,
  })
  if (series.isError) return <Failed error={series.error} onRetry={() => void series.refetch()} />
  if (!series.data) return <Loading rows={5} />
  const isStacked = question.course === 'stacked'
  return (
    <section className={classes.leaf} aria-label="Trend">
      <div className={classes.crossing}>
        <h2 className={classes.heading}>Trend by {series.data.step}</h2>
        <SegmentedControl
          size="xs"
          aria-label="Chart style"
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
      </div>
      <CourseChart answer={answer} series={series.data} isStacked={isStacked} />
    </section>
  )
}
