import { Button, Text } from '@mantine/core'
import { useDocumentTitle } from '@mantine/hooks'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Link, useSearch } from '@tanstack/react-router'
import { lazy, Suspense } from 'react'
import { api, read } from '../../api/client'
import { counted, day } from '../../parts/numbers'
import { Empty, Failed, Loading } from '../../parts/States'
import { BreakdownTable } from './BreakdownTable'
import classes from './Compare.module.css'
import { Lanes } from './Lanes'
import { Crossing } from './Crossing'
import { toReport, type Breakdown } from './question'
import { QuestionSentence } from './QuestionSentence'
import { WeekHours } from './WeekHours'

const Course = lazy(() => import('./Course'))

/** Asks in one sentence, answers in one sentence, then shows what the answer is made of. */
export function ComparePage() {
  const question = useSearch({ from: '/members/compare' })
  const asked = toReport(question)
  const answer = useQuery({
    queryKey: ['breakdown', asked],
    queryFn: () => read(api.GET('/api/v1/reports/breakdown', { params: { query: asked } })),
    placeholderData: keepPreviousData,
    refetchInterval: 15_000,
  })
  useDocumentTitle('Compare · Cursus')
  return (
    <div className={classes.page}>
      <QuestionSentence question={question} labels={answer.data} />
      {answer.isPending && <Loading />}
      {answer.isError && <Failed error={answer.error} onRetry={() => void answer.refetch()} />}
      {answer.data && !answer.isError && (
        <div
          aria-busy={answer.isPlaceholderData}
          className={answer.isPlaceholderData ? classes.stale : undefined}
        >
          <AnswerSentence answer={answer.data} />
          {answer.data.rows.length === 0 ? (
            <NothingYet />
          ) : (
            <>
              <Lanes answer={answer.data} question={question} />
              <Suspense fallback={<Loading rows={5} />}>
                <Course answer={answer.data} asked={asked} />
              </Suspense>
              <BreakdownTable answer={answer.data} asked={asked} />
              <Crossing answer={answer.data} question={question} asked={asked} />
              <WeekHours asked={asked} />
            </>
          )}
        </div>
      )}
    </div>
  )
}

const calls = {
  clear: { color: 'var(--good)', words: 'clear' },
  leaning: { color: 'var(--caution)', words: 'leans ahead' },
  'too-close': { color: 'var(--caution)', words: 'too close to call' },
} as const

/** The answer with the words that say how far it can be trusted in the colour of that trust. */
function WithCall({ sentence, color, words }: { sentence: string; color: string; words: string }) {
  const at = sentence.indexOf(words)
  if (at < 0) return sentence
  return (
    <>
      {sentence.slice(0, at)}
      <strong style={{ color }}>{words}</strong>
      {sentence.slice(at + words.length)}
    </>
  )
}

function AnswerSentence({ answer }: { answer: Breakdown }) {
  const { machines, previews, team, prefetches, repeats, heads } = answer.excluded
  const leftOut = [
    machines && counted(machines, 'machine'),
    previews && counted(previews, 'link preview'),
    team && counted(team, 'visit of the team', 'visits of the team'),
    prefetches && counted(prefetches, 'prefetch', 'prefetches'),
    repeats && counted(repeats, 'repeat within ten seconds', 'repeats within ten seconds'),
    heads && counted(heads, 'look at the headers alone', 'looks at the headers alone'),
  ].filter(Boolean)
  const call = answer.verdict && calls[answer.verdict.call as keyof typeof calls]
  return (
    <>
      <p className={classes.answer} role="status">
        {call ? <WithCall sentence={answer.answer} {...call} /> : answer.answer}
      </p>
      <Text size="sm" c="dimmed">
        {counted(answer.total.clicks, 'click')}
        {answer.total.visitors !== null && ` by about ${counted(answer.total.visitors, 'visitor')}`} ·{' '}
        {leftOut.length > 0 ? `left out: ${leftOut.join(', ')} · ` : 'nothing left out · '}
        {day(answer.from)} to {day(answer.to)}, {answer.timeZone}
        {answer.isUnfinished &&
          answer.before &&
          ' · not over yet, so compared with as much of the earlier period'}
        {answer.narrowedFrom &&
          ` · asked from ${day(answer.narrowedFrom)} on: where two things are crossed that only single clicks tell, the last 31 days are answered`}
      </Text>
    </>
  )
}

const NothingYet = () => (
  <Empty
    title="Nothing to compare in this period"
    action={
      <Button component={Link} to="/send">
        Send a post
      </Button>
    }
  >
    No link was published or clicked. Send a post to two channels or more, or choose a longer period.
  </Empty>
)
