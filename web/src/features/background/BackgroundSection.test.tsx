// @vitest-environment jsdom
import { screen, within } from '@testing-library/react'
import { expect, it } from 'vitest'
import { inBrowser } from '../../parts/inBrowser'
import { BackgroundSection } from './BackgroundSection'

const work = {
  key: 'digests',
  name: 'Weekly digest',
  what: 'Sends last week’s digest.',
  everySeconds: 600,
  lastRanAt: '2026-12-01T06:04:00Z',
  tookMilliseconds: 1900,
  nextAt: '2026-12-01T06:14:00Z',
  failedTimes: 0,
  failure: null,
  lastSucceededAt: '2026-12-01T06:04:00Z',
}

it('says when work ran, how often, and why it failed', async () => {
  const failed = {
    ...work,
    key: 'sealing',
    name: 'Monthly totals',
    failedTimes: 3,
    failure: 'The database didn’t respond as it should.',
    lastSucceededAt: null,
  }
  await inBrowser(() => <BackgroundSection />, {
    'GET /api/v1/background-work': { isOn: true, items: [work, failed] },
  })
  const good = within((await screen.findByText('Weekly digest')).closest('tr')!)
  expect(good.getByText('every 10 minutes')).toBeTruthy()
  expect(good.getByText('done in 2 s')).toBeTruthy()
  const bad = (await screen.findByText('Monthly totals')).closest('tr')!
  expect(bad.textContent).toContain('Failed 3 times in a row. The database didn’t respond as it should.')
  expect(bad.textContent).toContain('It has never run successfully.')
})

it('says so where this server takes no part', async () => {
  await inBrowser(() => <BackgroundSection />, { 'GET /api/v1/background-work': { isOn: false, items: [] } })
  expect(await screen.findByText(/takes no part in background work/)).toBeTruthy()
})
