import { day } from '../../parts/numbers'
import { dimensions, filters, isById, periods, usualPeriod, type Breakdown, type Question } from './question'

/** The question as one plain sentence, for pages and files on which nothing can be chosen. */
export function inWords(question: Question, answer: Breakdown): string {
  const narrowed = filters
    .filter((filter) => question[filter] !== undefined)
    .map((filter) => (isById(filter) ? `one ${filter}` : `${dimensions[filter]} ${question[filter]}`))
  const days = question.from
    ? `from ${day(answer.from)} to ${day(answer.to)}`
    : `in ${periods[question.period ?? usualPeriod]}`
  const against = answer.before && `against ${day(answer.before.from)} to ${day(answer.before.to)}`
  return `${[
    `Which ${dimensions[question.by ?? 'channel']} brought the most clicks`,
    narrowed.length > 0 && `for ${narrowed.join(', ')}`,
    days,
  ]
    .filter(Boolean)
    .join(' ')}${against ? `, ${against}` : ''}?`
}
