import { Text } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import type { Schema } from '../../../api/client'
import { useChannels } from '../../../api/vocabulary'
import { Failed, Loading } from '../../../parts/States'
import { AnswerSentence } from '../compare/AnswerSentence'
import classes from '../compare/Compare.module.css'
import { Lanes } from '../compare/Lanes'
import { PostPace } from './PostPace'
import { PostVariants } from './PostVariants'
import type { Asked } from '../question/question'
import { breakdownOf } from '../reports'
import { WeekHours } from '../course/WeekHours'
import { ClickedOn } from '../countries/ClickedOn'

/** How a post does: its placements as lanes, how they keep pace, where and when they were clicked. */
export function PostFigures({ post }: { post: Schema['PostResponse'] }) {
  const channels = useChannels()
  const asked: Asked = {
    by: 'placement',
    post: [post.id],
    from: post.publishedOn,
    to: lastDay(post.publishedOn),
    compare: 'none',
  }
  const answer = useQuery({
    ...breakdownOf(asked),
    refetchInterval: 30_000,
  })
  if (answer.isError) return <Failed error={answer.error} onRetry={() => void answer.refetch()} />
  if (!answer.data) return <Loading rows={4} />
  if (answer.data.total.clicks === 0)
    return (
      <Text size="sm" c="dimmed" mt="lg">
        No clicks yet. Results by channel appear here after the first click.
      </Text>
    )
  const question = { post: post.id, from: asked.from as string, to: asked.to as string }
  const channelOf = (link: string) =>
    channels.get(post.placements.find((p) => p.link.id === link)?.channel ?? '')
  return (
    <section aria-label="Results">
      <h2 className={classes.section}>Results</h2>
      <AnswerSentence answer={answer.data} />
      <Lanes
        answer={answer.data}
        question={question}
        name="placement"
        channelOf={(row) => channelOf(row.key)}
        opens={(row) => {
          const channel = channelOf(row.key)?.key
          return channel ? { ...question, channel, by: 'network', compare: 'none' } : undefined
        }}
      />
      <PostVariants post={post} />
      <PostPace post={post} />
      <ClickedOn asked={asked} question={question} />
      <WeekHours asked={asked} />
      <Text size="sm" mt="md">
        <Link to="/compare" search={{ ...question, compare: 'none' }} className={classes.onward}>
          Open in Compare
        </Link>
      </Text>
    </section>
  )
}

/** Today, or the day of going out where that is still to come. */
const lastDay = (publishedOn: string) => {
  const today = new Date().toISOString().slice(0, 10)
  return publishedOn > today ? publishedOn : today
}
