import { Text } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link as RouterLink } from '@tanstack/react-router'
import type { Schema } from '../../../api/client'
import { Fact, Facts } from '../../../parts/Facts'
import { Failed, Loading } from '../../../parts/States'
import classes from '../compare/Compare.module.css'
import { sharesOf } from '../compare/figures'
import { toReport, type Asked, type Dimension, type Question } from '../question/question'
import { breakdownOf, weekHoursOf } from '../reports'
import { bestOf } from '../course/WeekHours'

interface Props {
  link: Pick<Schema['LinkResponse'], 'id' | 'clicks' | 'createdAt' | 'post'>
}

/** What a link's sheet tells of each of these, in this order. */
const told: Array<{ by: Dimension; label: string }> = [
  { by: 'network', label: 'Clicked on' },
  { by: 'country', label: 'Countries' },
  { by: 'device', label: 'Devices' },
  { by: 'browser', label: 'Browsers' },
  { by: 'scan', label: 'Via' },
]

/** How a link was clicked since it was made, in short: where, from where, with what and when. */
export function LinkClicks({ link }: Props) {
  const question: Question = {
    link: link.id,
    from: firstDay(link),
    to: new Date().toISOString().slice(0, 10),
    compare: 'none',
  }
  if (link.clicks === 0)
    return (
      <Text size="sm" c="dimmed">
        No clicks yet.
      </Text>
    )
  return (
    <>
      <Facts>
        {told.map(({ by, label }) => (
          <Fact key={by} label={label}>
            <Shares asked={toReport({ ...question, by })} />
          </Fact>
        ))}
        <Fact label="Best hour">
          <BestHour asked={toReport(question)} />
        </Fact>
      </Facts>
      <Text size="sm" mt="sm">
        <RouterLink to="/compare" search={{ ...question, by: 'network' }} className={classes.onward}>
          Open in Compare
        </RouterLink>
      </Text>
    </>
  )
}

/** The first groups with their shares. */
function Shares({ asked }: { asked: Asked }) {
  const answer = useQuery(breakdownOf(asked))
  if (answer.isError) return <Failed error={answer.error} onRetry={() => void answer.refetch()} />
  return answer.data ? sharesOf(answer.data) : <Loading rows={1} />
}

function BestHour({ asked }: { asked: Asked }) {
  const pivot = useQuery(weekHoursOf(asked))
  if (pivot.isError) return <Failed error={pivot.error} onRetry={() => void pivot.refetch()} />
  return pivot.data ? bestOf(pivot.data) : <Loading rows={1} />
}

/** When its clicks can have begun: the day on which its post went out, or that of its making. */
const firstDay = ({ post, createdAt }: Props['link']) => {
  const made = createdAt.slice(0, 10)
  return post && post.publishedOn < made ? post.publishedOn : made
}
