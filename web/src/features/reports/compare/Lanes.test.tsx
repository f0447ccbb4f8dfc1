// @vitest-environment jsdom
import { screen, within } from '@testing-library/react'
import { expect, it } from 'vitest'
import { inBrowser } from '../../../parts/inBrowser'
import { Lanes } from './Lanes'
import type { Breakdown, BreakdownRow } from '../question/question'

const row = (label: string, clicks: number, more: Partial<BreakdownRow> = {}) =>
  ({
    key: label.toLowerCase(),
    label,
    clicks,
    share: clicks / 1000,
    posts: 5,
    clicksPerPost: clicks / 5,
    low: clicks - 20,
    high: clicks + 20,
    previousClicks: 0,
    change: null,
    isTooCloseToNext: false,
    ...more,
  }) as BreakdownRow

const answer = (rows: BreakdownRow[], more: Partial<Breakdown> = {}) =>
  ({
    by: 'channel',
    per: null,
    before: { from: '2026-10-01', to: '2026-10-28' },
    rows,
    others: null,
    ...more,
  }) as Breakdown

it('each lane says its clicks, share, clicks per post and change, and its figure opens', async () => {
  const rows = [row('Guildhall', 600, { change: 0.18 }), row('Perch', 400)]
  const { user, address } = await inBrowser(() => (
    <Lanes answer={answer(rows)} question={{ by: 'channel' }} />
  ))
  const [, ...cells] = within(screen.getByRole('row', { name: /Guildhall/ })).getAllByRole('cell')
  expect(cells.map((cell) => cell.textContent)).toEqual(['60%', '120', '+18%'])
  expect(within(screen.getByRole('row', { name: /Perch/ })).getByText('new')).toBeTruthy()

  await user.click(screen.getByRole('link', { name: '600' }))
  expect(address()).toMatch(/compare\?.*channel=.*guildhall/)
})

it('two that are too close to call say so to eye and ear, but the last has none to be close to', async () => {
  const rows = [
    row('Guildhall', 500, { isTooCloseToNext: true }),
    row('Perch', 490, { isTooCloseToNext: true }),
  ]
  await inBrowser(() => <Lanes answer={answer(rows)} />)
  expect(screen.getAllByText('too close to call')).toHaveLength(1)
  expect(screen.getAllByText(', too close to the next to call')).toHaveLength(1)
})

it('asked per post, the lanes swap clicks and clicks per post, and leave the period before out', async () => {
  await inBrowser(() => <Lanes answer={answer([row('Guildhall', 600)], { per: 'post' })} />)
  const [, ...heads] = screen.getAllByRole('columnheader')
  expect(heads.map((head) => head.textContent)).toEqual([
    expect.not.stringContaining('previous period'),
    'Per post',
    'Posts',
    'Clicks',
  ])
})
