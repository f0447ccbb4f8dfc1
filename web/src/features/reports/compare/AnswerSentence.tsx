import { Anchor, Text } from '@mantine/core'
import { Link } from '@tanstack/react-router'
import { counted, day } from '../../../parts/format/numbers'
import classes from './Compare.module.css'
import type { Breakdown } from '../question/question'

const calls = {
  clear: { color: 'var(--good)', words: 'clear' },
  leaning: { color: 'var(--caution)', words: 'leans ahead' },
  'too-close': { color: 'var(--caution)', words: 'too close to call' },
  'too-few': { color: 'var(--caution)', words: 'too few' },
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

/** The answer in one sentence, and in one line what was left out of it. */
export function AnswerSentence({ answer }: { answer: Breakdown }) {
  const { machines, previews, team, prefetches, repeats, heads, impostors, sweeps, echoes, probes } =
    answer.excluded
  const leftOut = [
    machines && counted(machines, 'bot'),
    impostors && counted(impostors, 'bot posing as a browser', 'bots posing as browsers'),
    sweeps && counted(sweeps, 'click too fast for a person', 'clicks too fast for a person'),
    probes && counted(probes, 'click by a link checker', 'clicks by link checkers'),
    echoes && counted(echoes, 'click straight after your team’s', 'clicks straight after your team’s'),
    previews && counted(previews, 'link preview'),
    team && counted(team, 'team visit', 'team visits'),
    prefetches && counted(prefetches, 'prefetch', 'prefetches'),
    repeats && counted(repeats, 'repeat within ten seconds', 'repeats within ten seconds'),
    heads && counted(heads, 'headers-only request', 'headers-only requests'),
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
        {leftOut.length > 0 ? `excluded: ${leftOut.join(', ')} · ` : 'nothing excluded · '}
        {day(answer.from)} to {day(answer.to)}, {answer.timeZone}
        {answer.isUnfinished &&
          answer.before &&
          ' · not finished, so compared with the same part of the earlier period'}
        {answer.narrowedFrom &&
          ` · asked from ${day(answer.narrowedFrom)} on: where two things are crossed that only single clicks tell, at most 31 days are answered, as far back as single clicks are kept`}
      </Text>
      <Anchor component={Link} to="/how-cursus-counts" size="sm" display="block">
        How Cursus counts and compares
      </Anchor>
    </>
  )
}
