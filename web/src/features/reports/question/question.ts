import type { Schema } from '../../../api/client'
import {
  dimensions,
  filters,
  nextOf,
  ofLink,
  ofPages,
  withPosts,
  type Dimension,
  type Filter,
} from '../../../api/dimensions'
import { text } from '../../../parts/format/addressText'

export type Breakdown = Schema['BreakdownReportResponse']
export type BreakdownRow = Schema['BreakdownReportRow']

export { dimensions, filters, ofLink, type Dimension, type Filter }

/** Whether posts belong to groups by their links, so that clicks per post can be asked for. */
export const hasPosts = (by: Dimension) => withPosts.includes(by)

/** Whether groups are pages that clicks were led to, and not what brought them. */
export const isOfPages = (by: Dimension) => ofPages.includes(by)

/** Filters whose value is an id that nobody reads. */
export const isById = (filter: Filter) => filter === 'post' || filter === 'link'

/** Periods that the API knows by name, as the question words them. */
export const periods = {
  today: 'today',
  yesterday: 'yesterday',
  'last-7': 'the last 7 days',
  'last-28': 'the last 28 days',
  'last-30': 'the last 30 days',
  'last-90': 'the last 90 days',
  'this-week': 'this week',
  'last-week': 'last week',
  'this-month': 'this month',
  'last-month': 'last month',
  'this-quarter': 'this quarter',
  'last-quarter': 'last quarter',
  'this-year': 'this year',
  'last-year': 'last year',
} as const

export type PeriodName = keyof typeof periods

export const usualPeriod: PeriodName = 'last-28'

/** The question as the address holds it. Its days have a name or are a range of one's own. */
export type Question = {
  by?: Dimension
  across?: Dimension
  period?: PeriodName
  from?: string
  to?: string
  compare?: 'none' | 'year'
  /** Clicks for each post that went out; all clicks where left out. */
  per?: 'post'
  /** How the course is drawn; as lines where left out. */
  course?: 'stacked'
  /** What the table is sorted by: the name of a figure, with a minus in front where the least comes first. */
  sort?: string
  /** Figures that the table leaves out, with commas between them. */
  without?: string
} & { [filter in Filter]?: string }

const isDay = (value: unknown): value is string =>
  typeof value === 'string' && /^\d{4}-\d{2}-\d{2}$/.test(value)

/** Reads the address; what makes no sense in it is passed over. */
export function readQuestion(search: Record<string, unknown>): Question {
  const question: Question = {}
  const by = text(search.by)
  const across = text(search.across)
  const period = text(search.period)
  if (by && by in dimensions) question.by = by as Dimension
  if (across && across in dimensions && across !== (question.by ?? 'channel'))
    question.across = across as Dimension
  if (isDay(search.from) && isDay(search.to)) {
    question.from = search.from
    question.to = search.to
  } else if (period && period in periods) question.period = period as PeriodName
  if (search.compare === 'none' || search.compare === 'year') question.compare = search.compare
  if (search.per === 'post' && hasPosts(question.by ?? 'channel')) question.per = 'post'
  if (search.course === 'stacked') question.course = 'stacked'
  const sort = text(search.sort)
  const without = text(search.without)
  if (sort) question.sort = sort
  if (without) question.without = without
  for (const filter of filters) {
    // An empty value is one as well: what has none.
    const value = search[filter] === '' ? '' : text(search[filter])
    if (value !== undefined) question[filter] = value
  }
  return question
}

/** A question as the API is asked it. */
export type Asked = Record<string, string | string[]>

export function toReport(question: Question): Asked {
  const asked: Asked = {
    by: question.by ?? 'channel',
    ...(question.from && question.to
      ? { from: question.from, to: question.to }
      : { period: question.period ?? usualPeriod }),
    compare: question.compare ?? 'previous',
    ...(question.per && { per: question.per }),
  }
  for (const filter of filters) {
    const value = question[filter]
    if (value !== undefined) asked[filter] = [value]
  }
  return asked
}

/** What an answer can be taken away as. */
export type ReportFile =
  | `${'breakdown' | 'pivot' | 'life'}.${'csv' | 'xlsx'}`
  | `clicks.${'csv' | 'ndjson'}`
  | `${'lanes' | 'course' | 'map' | 'life' | 'pivot'}.${'svg' | 'png'}`
  | 'page.pdf'

/** Where an answer is taken away from as a file. */
export const fileAddress = (file: ReportFile, asked: Asked) =>
  `/api/v1/reports/${file}?${new URLSearchParams(Object.entries(asked).flatMap(([name, value]) => [value].flat().map((one) => [name, one])))}`

/** Where one part of an answer is taken away from: what is drawn of it, or its table. */
export const partAddress =
  (picture: 'pivot' | 'life' | 'map', table: 'pivot' | 'life' | 'breakdown', asked: Asked) =>
  (ending: 'svg' | 'png' | 'csv' | 'xlsx') =>
    ending === 'svg' || ending === 'png'
      ? fileAddress(`${picture}.${ending}`, asked)
      : fileAddress(`${table}.${ending}`, asked)

/** Where a figure leads when it is opened: the same question, narrowed to it, by what is asked next. */
export function narrowedTo(question: Question, row: BreakdownRow): Question | undefined {
  const by = question.by ?? 'channel'
  const goOn = nextOf[by]
  return goOn
    ? {
        ...question,
        [by]: row.key,
        by: goOn,
        across: undefined,
        sort: undefined,
        per: hasPosts(goOn) ? question.per : undefined,
      }
    : undefined
}
