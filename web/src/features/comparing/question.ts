import type { Schema } from '../../api/client'
import { text } from '../../parts/addressText'

export type Breakdown = Schema['BreakdownReportResponse']
export type BreakdownRow = Schema['BreakdownReportRow']

/** What can be compared, as the question words it. */
export const dimensions = {
  channel: 'channel',
  campaign: 'campaign',
  source: 'source',
  medium: 'medium',
  post: 'post',
  content: 'variant',
  tag: 'tag',
  link: 'link',
  referrer: 'referrer',
  network: 'network it was clicked on',
  site: 'kind of site',
  wandered: 'road, stayed or wandered,',
  country: 'country',
  device: 'device',
  browser: 'browser',
  os: 'operating system',
  language: 'language',
  domain: 'short domain',
  weekday: 'weekday',
  hour: 'hour',
} as const

export type Dimension = keyof typeof dimensions

/** What an answer may be narrowed to. */
export const filters = [
  'channel',
  'campaign',
  'source',
  'medium',
  'post',
  'content',
  'tag',
  'referrer',
  'network',
  'site',
  'wandered',
  'country',
  'device',
  'browser',
  'os',
  'language',
  'domain',
] as const

export type Filter = (typeof filters)[number]

export const spans = { '7': 'the last 7 days', '28': 'the last 28 days', '90': 'the last 90 days' } as const

/** The question as the address holds it. Days are either the last so many or a range of one's own. */
export type Question = {
  by?: Dimension
  days?: keyof typeof spans
  from?: string
  to?: string
  compare?: 'none'
} & { [filter in Filter]?: string }

const isDay = (value: unknown): value is string =>
  typeof value === 'string' && /^\d{4}-\d{2}-\d{2}$/.test(value)

/** Reads the address; what makes no sense in it is passed over. */
export function readQuestion(search: Record<string, unknown>): Question {
  const question: Question = {}
  const by = text(search.by)
  const days = text(search.days)
  if (by && by in dimensions) question.by = by as Dimension
  if (isDay(search.from) && isDay(search.to)) {
    question.from = search.from
    question.to = search.to
  } else if (days && days in spans) question.days = days as keyof typeof spans
  if (search.compare === 'none') question.compare = 'none'
  for (const filter of filters) {
    const value = text(search[filter])
    if (value) question[filter] = value
  }
  return question
}

const iso = (date: Date) => date.toISOString().slice(0, 10)

/** The calendar day it is now in a time zone. */
export const todayIn = (timeZone: string) => new Intl.DateTimeFormat('sv-SE', { timeZone }).format(new Date())

/** First and last day of the question, both included, in the workspace's time zone. */
export function daysOf(question: Question, today: string): { from: string; to: string } {
  if (question.from && question.to) return { from: question.from, to: question.to }
  const first = new Date(`${today}T12:00:00Z`)
  first.setUTCDate(first.getUTCDate() + 1 - Number(question.days ?? '28'))
  return { from: iso(first), to: today }
}

/** The question as the API asks it. */
export function toReport(question: Question, today: string) {
  const asked: Record<string, string | string[]> = {
    by: question.by ?? 'channel',
    ...daysOf(question, today),
    compare: question.compare ?? 'previous',
  }
  for (const filter of filters) {
    const value = question[filter]
    if (value !== undefined) asked[filter] = [value]
  }
  return asked
}

/** Where a figure leads when it is opened: the same question, narrowed to it, by what is asked next. */
export function narrowedTo(question: Question, row: BreakdownRow): Question | undefined {
  const by = question.by ?? 'channel'
  const next: Partial<Record<Dimension, Dimension>> = {
    channel: 'post',
    campaign: 'channel',
    source: 'campaign',
    medium: 'channel',
    post: 'channel',
    content: 'post',
    tag: 'channel',
    referrer: 'channel',
    network: 'channel',
    site: 'network',
    wandered: 'network',
    country: 'channel',
    device: 'browser',
    browser: 'device',
    os: 'device',
    language: 'country',
    domain: 'channel',
  }
  const goOn = next[by]
  return goOn && row.key !== '' ? { ...question, [by]: row.key, by: goOn } : undefined
}
