import { describe, expect, it } from 'vitest'
import { fileAddress, narrowedTo, readQuestion, toReport, type BreakdownRow } from './question'

const row = (key: string) => ({ key, label: key }) as BreakdownRow

describe('the question in the address', () => {
  it('keeps what can be asked and passes over the rest', () => {
    expect(
      readQuestion({
        by: 'campaign',
        period: 'last-90',
        across: 'content',
        channel: 'perch',
        compare: 'none',
        colour: 'red',
      }),
    ).toEqual({
      by: 'campaign',
      period: 'last-90',
      across: 'content',
      channel: 'perch',
      compare: 'none',
    })
    expect(
      readQuestion({
        by: 'mood',
        across: 'channel',
        period: 'last-5',
        compare: 'mars',
        from: 'yesterday',
        to: '2026-11-23',
        campaign: [],
      }),
    ).toEqual({})
  })

  it('keeps an empty value, which asks for what has none', () => {
    expect(readQuestion({ tag: '' })).toEqual({ tag: '' })
    expect(toReport({ by: 'channel', tag: '' }).tag).toEqual([''])
  })

  it('asks for clicks per post only where groups have posts', () => {
    expect(readQuestion({ per: 'post' })).toEqual({ per: 'post' })
    expect(readQuestion({ by: 'country', per: 'post' })).toEqual({ by: 'country' })
    expect(toReport({ per: 'post' }).per).toBe('post')
  })

  it('takes a campaign whose value looks like a number as text', () => {
    expect(readQuestion({ campaign: 2026 })).toEqual({ campaign: '2026' })
  })

  it('prefers a range of days to a name', () => {
    expect(readQuestion({ period: 'last-7', from: '2026-01-05', to: '2026-01-06' })).toEqual({
      from: '2026-01-05',
      to: '2026-01-06',
    })
  })

  it('is asked of the API with its filters', () => {
    expect(toReport({ by: 'source', campaign: 'winter-members', period: 'last-7' })).toEqual({
      by: 'source',
      period: 'last-7',
      compare: 'previous',
      campaign: ['winter-members'],
    })
  })
})

describe('a table that is taken away', () => {
  it('is the answer to the same question', () => {
    expect(fileAddress('breakdown.csv', toReport({ campaign: 'winter & more', period: 'today' }))).toBe(
      '/api/v1/reports/breakdown.csv?by=channel&period=today&compare=previous&campaign=winter+%26+more',
    )
  })
})

describe('a figure that is opened', () => {
  it('narrows the question to it and asks the next', () => {
    expect(narrowedTo({ period: 'last-90' }, row('perch'))).toEqual({
      period: 'last-90',
      channel: 'perch',
      by: 'post',
    })
    expect(narrowedTo({ by: 'campaign', channel: 'perch' }, row('raffle'))).toEqual({
      by: 'channel',
      channel: 'perch',
      campaign: 'raffle',
    })
  })

  it('opens what has none of it as well', () => {
    expect(narrowedTo({ by: 'tag' }, row(''))).toMatchObject({ by: 'channel', tag: '' })
  })

  it('stays closed where there is nothing to narrow to', () => {
    expect(narrowedTo({ by: 'hour' }, row('08'))).toBeUndefined()
  })
})
