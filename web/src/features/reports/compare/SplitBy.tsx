import { Select } from '@mantine/core'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { useChannels } from '../../../api/vocabulary'
import { day } from '../../../parts/format/numbers'
import { Signet } from '../../../parts/Signet'
import { Failed, Loading } from '../../../parts/States'
import classes from './Compare.module.css'
import {
  dimensions,
  type Asked,
  type Breakdown,
  type Dimension,
  type Question,
  partAddress,
} from '../question/question'
import { crossed, pivotOf } from '../reports'
import { ShadedTable } from '../course/ShadedTable'
import { ExportPart } from './ExportPart'

interface Props {
  answer: Breakdown
  question: Question
  asked: Asked
}

/** The answer's groups against those of a second dimension, which the reader chooses. */
export function SplitBy({ answer, question, asked }: Props) {
  const navigate = useNavigate()
  const by = answer.by as Dimension
  return (
    <section className={classes.leaf} aria-label="Split by" tabIndex={question.across ? 0 : undefined}>
      <div className={classes.crossing}>
        <h2 className={classes.heading}>{dimensions[by]} by</h2>
        <Select
          aria-label={`Split ${dimensions[by]} by`}
          placeholder="choose…"
          size="sm"
          clearable
          data={Object.entries(dimensions)
            .filter(([key]) => key !== by)
            .map(([value, label]) => ({ value, label }))}
          value={question.across ?? null}
          onChange={(across) =>
            void navigate({
              to: '/compare',
              search: { ...question, across: (across ?? undefined) as Dimension | undefined },
              resetScroll: false,
            })
          }
        />
        {question.across && (
          <ExportPart
            name={`${dimensions[by]} by ${dimensions[question.across]}`}
            addressOf={partAddress('pivot', 'pivot', crossed(asked, by, question.across))}
          />
        )}
      </div>
      {question.across ? (
        <Crossed by={by} across={question.across} asked={asked} />
      ) : (
        <p className={classes.more}>
          Split the answer by a second thing to see where each does best, and do more of it there.
        </p>
      )}
    </section>
  )
}

function Crossed({ by, across, asked }: { by: Dimension; across: Dimension; asked: Props['asked'] }) {
  const channels = useChannels()
  const pivot = useQuery({
    ...pivotOf(crossed(asked, by, across)),
    placeholderData: keepPreviousData,
  })
  if (pivot.isError) return <Failed error={pivot.error} onRetry={() => void pivot.refetch()} />
  if (!pivot.data) return <Loading rows={4} />
  const { from, to, narrowedFrom } = pivot.data
  const caption = `Clicks by ${dimensions[by]} and ${dimensions[across]}, ${day(from)} to ${day(to)}${
    narrowedFrom
      ? '. Both are told by single clicks alone: at most 31 days are answered, or one link over any time, as far back as single clicks are kept'
      : ''
  }.`
  return (
    <ShadedTable
      pivot={pivot.data}
      caption={caption}
      rowName={(key, label) =>
        by === 'channel' && key !== null ? (
          <span className={classes.name}>
            <Signet channel={channels.get(key)} /> <span>{label}</span>
          </span>
        ) : (
          label
        )
      }
    />
  )
}
