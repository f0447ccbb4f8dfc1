import { Button } from '@mantine/core'
import { useDocumentTitle } from '@mantine/hooks'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Link, useSearch } from '@tanstack/react-router'
import { later } from '../../../parts/later'
import { Empty, Failed, Loading } from '../../../parts/States'
import { PixelOutcomes } from '../../retargeting/PixelOutcomes'
import { AnswerSentence } from './AnswerSentence'
import { BreakdownTable } from './BreakdownTable'
import classes from './Compare.module.css'
import { Countries, MapOf } from '../countries/Countries'
import { Lanes } from './Lanes'
import { SplitBy } from './SplitBy'
import { PostLifespan } from '../posts/PostLifespan'
import { filters, ofLink, toReport, type Question } from '../question/question'
import { breakdownOf } from '../reports'
import { QuestionSentence } from '../question/QuestionSentence'
import { SavedViews } from '../views/SavedViews'
import { WeekHours } from '../course/WeekHours'

const Course = later('Course', () => import('../course/Course').then((m) => m.Course), <Loading rows={5} />)

/** Asks in one sentence, answers in one sentence, then shows what the answer is made of. */
export function ComparePage() {
  const question = useSearch({ from: '/members/compare' })
  const asked = toReport(question)
  const answer = useQuery({
    ...breakdownOf(asked),
    placeholderData: keepPreviousData,
    refetchInterval: 15_000,
  })
  useDocumentTitle('Compare · Cursus')
  return (
    <div className={classes.page}>
      <SavedViews question={question} asked={asked} />
      {/* The answer knows the days that are meant; the sentence is as long as they are. */}
      {answer.isPending ? <Loading /> : <QuestionSentence question={question} labels={answer.data} />}
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
              {answer.data.by === 'country' && (
                <section className={classes.leaf} aria-label="Map">
                  <h2 className={classes.heading}>On the map</h2>
                  <MapOf answer={answer.data} question={question} />
                </section>
              )}
              <PixelOutcomes rows={answer.data.rows} />
              <div className={classes.courseRoom}>
                <Course answer={answer.data} asked={asked} question={question} />
              </div>
              <BreakdownTable answer={answer.data} question={question} />
              <SplitBy answer={answer.data} question={question} asked={asked} />
              <WeekHours asked={asked} />
              {answer.data.by !== 'country' && question.country === undefined && (
                <Countries question={question} asked={asked} />
              )}
              {hasLife(question) && <PostLifespan asked={asked} />}
            </>
          )}
        </div>
      )}
    </div>
  )
}

/** Posts have a life by what their links decide, and not by what each click tells anew. */
const hasLife = (question: Question) =>
  ofLink.includes(question.by ?? 'channel') &&
  filters.every((filter) => question[filter] === undefined || ofLink.includes(filter))

const NothingYet = () => (
  <Empty
    title="Nothing to compare in this period"
    action={
      <Button component={Link} to="/send">
        Create a post
      </Button>
    }
  >
    No links were published or clicked. Create a post for two or more channels, or choose a longer period.
  </Empty>
)
