import { Group, Text } from '@mantine/core'
import { useDocumentTitle } from '@mantine/hooks'
import { useQuery } from '@tanstack/react-query'
import { useParams } from '@tanstack/react-router'
import { useMemo } from 'react'
import { api, read, type Schema } from '../../../api/client'
import { KnownChannels } from '../../../api/vocabulary'
import { later } from '../../../parts/later'
import { day, timeOf, writeAs } from '../../../parts/format/numbers'
import { Failed, Loading } from '../../../parts/States'
import { Wordmark } from '../../../shell/Wordmark'
import { AnswerSentence } from '../compare/AnswerSentence'
import classes from '../compare/Compare.module.css'
import { MapOf } from '../countries/Countries'
import { FiguresTable } from '../compare/FiguresTable'
import { fromKept } from '../question/keptQuestion'
import { Lanes } from '../compare/Lanes'

const CourseChart = later(
  'CourseChart',
  () => import('../course/CourseChart').then((m) => m.CourseChart),
  <Loading rows={5} />,
)

/** A saved view for somebody without an account: question, answer, lanes, course and table, and nothing that opens. */
export function SharedViewPage() {
  const { secret } = useParams({ from: '/shared/$secret' })
  const shared = useQuery({
    queryKey: ['shared', secret],
    queryFn: async () => {
      const view = await read(api.GET('/api/v1/shared/{secret}', { params: { path: { secret } } }))
      writeAs(view.numberLanguage, view.answer.timeZone)
      return view
    },
    refetchInterval: 60_000,
    retry: false,
  })
  useDocumentTitle(shared.data && !shared.isError ? `${shared.data.name} · Cursus` : 'Cursus')
  return (
    <main className={classes.page}>
      <div className={classes.publicHead}>
        <Wordmark />
        {shared.data && !shared.isError && (
          <Group gap={10} wrap="nowrap">
            {shared.data.logo && <img src={shared.data.logo} alt="" height={28} />}
            <Text size="sm" c="dimmed">
              {shared.data.workspace} · read-only
            </Text>
          </Group>
        )}
      </div>
      {shared.isError ? (
        <>
          <h1 className={classes.question}>This view can’t be read</h1>
          <Failed error={shared.error} onRetry={() => void shared.refetch()} />
        </>
      ) : shared.data ? (
        <Shown shared={shared.data} />
      ) : (
        <Loading rows={8} />
      )}
    </main>
  )
}

function Shown({ shared }: { shared: Schema['SharedViewResponse'] }) {
  const question = fromKept(shared.question)
  const channels = useMemo(() => new Map(shared.channels.map((c) => [c.key, c])), [shared.channels])
  return (
    <KnownChannels value={channels}>
      <h1 className={classes.question}>{shared.name}</h1>
      <Text c="dimmed" mb={6}>
        {shared.words} {day(shared.answer.from)} to {day(shared.answer.to)}
        {shared.answer.before &&
          `, against ${day(shared.answer.before.from)} to ${day(shared.answer.before.to)}`}
        .
      </Text>
      <AnswerSentence answer={shared.answer} />
      {shared.answer.rows.length > 0 && (
        <>
          <Lanes answer={shared.answer} />
          {shared.answer.by === 'country' && (
            <section className={classes.leaf} aria-label="Map">
              <h2 className={classes.heading}>On the map</h2>
              <MapOf answer={shared.answer} />
            </section>
          )}
          <section className={classes.leaf} aria-label="Trend">
            <h2 className={classes.heading}>Trend by {shared.course.step}</h2>
            <CourseChart
              answer={shared.answer}
              series={shared.course}
              isStacked={question.course === 'stacked'}
            />
          </section>
          <section className={classes.leaf} aria-label="All figures" tabIndex={0}>
            <h2 className={classes.heading}>All figures</h2>
            <FiguresTable answer={shared.answer} question={question} />
          </section>
        </>
      )}
      <Text size="sm" c="dimmed" mt="md">
        A clear lead is worth acting on; anything else needs more posts. Clicks by people; exclusions are
        listed above. Updated {timeOf(shared.answeredAt)}
        {shared.expiresAt && `, available until ${day(shared.expiresAt.slice(0, 10))}`}.
      </Text>
    </KnownChannels>
  )
}
