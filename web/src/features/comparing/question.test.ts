import { describe, expect, it } from 'vitest'
import { daysOf, narrowedTo, readQuestion, todayIn, toReport, type BreakdownRow } from './question'

const row = (key: string) => ({ key, label: key }) as BreakdownRow

describe('the question in the address', () => {
  it('keeps what can be asked and passes over the rest', () => {
    expect(
      readQuestion({ by: 'campaign', days: 90, channel: 'perch', compare: 'none', colour: 'red' }),
    ).toEqual({
      by: 'campaign',
      days: '90',
      channel: 'perch',
      compare: 'none',
    })
    expect(
      readQuestion({ by: 'mood', days: '5', from: 'yesterday', to: '2026-11-23', campaign: '' }),
    ).toEqual({})
  })

  it('takes a campaign whose value looks like a number as text', () => {
    expect(readQuestion({ campaign: 2026 })).toEqual({ campaign: '2026' })
  })

  it('prefers a range of days to a span', () => {
    expect(readQuestion({ days: '7', from: '2026-01-05', to: '2026-01-06' })).toEqual({
      from: '2026-01-05',
      to: '2026-01-06',
    })
  })

  it('counts today among the last days', () => {
    expect(daysOf({ days: '7' }, '2026-11-23')).toEqual({ from: '2026-11-17', to: '2026-11-23' })
    expect(daysOf({}, '2026-03-01')).toEqual({ from: '2026-02-02', to: '2026-03-01' })
  })

  it('knows which day it is in a zone', () => {
    expect(todayIn('Pacific/Kiritimati') >= todayIn('Pacific/Pago_Pago')).toBe(true)
    expect(todayIn('UTC')).toMatch(/^\d{4}-\d{2}-\d{2}$/)
  })

  it('is asked of the API with its filters', () => {
    expect(toReport({ by: 'source', campaign: 'winter-members', days: '7' }, '2026-11-23')).toEqual({
      by: 'source',
      from: '2026-11-17',
      to: '2026-11-23',
      compare: 'previous',
      campaign: ['winter-members'],
    })
  })
})

describe('a figure that is opened', () => {
  it('narrows the question to it and asks the next', () => {
    expect(narrowedTo({ days: '90' }, row('perch'))).toEqual({ days: '90', channel: 'perch', by: 'post' })
    expect(narrowedTo({ by: 'campaign', channel: 'perch' }, row('raffle'))).toEqual({
      by: 'channel',
      channel: 'perch',
      campaign: 'raffle',
    })
  })

  it('stays closed where there is nothing to narrow to', () => {
    expect(narrowedTo({ by: 'hour' }, row('08'))).toBeUndefined()
    expect(narrowedTo({ by: 'channel' }, row(''))).toBeUndefined()
  })
})
