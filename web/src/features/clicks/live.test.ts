// @vitest-environment jsdom
import { expect, test } from 'vitest'
import { withArrivals } from './live'

const perch = { link: 'perch', people: 2, team: 0, others: 1, device: 'phone', country: 'United Kingdom' }

test('arrivals add up for each link, and the last one tells where it came from', () => {
  const before = { people: 5, isOpen: true, links: new Map() }
  const once = withArrivals(before, { at: '2026-11-25T08:00:00Z', people: 2, links: [perch] })
  const twice = withArrivals(once, {
    at: '2026-11-25T08:00:01Z',
    people: 0,
    links: [{ ...perch, people: 0, team: 1, others: 0, device: 'computer', country: '' }],
  })
  expect(twice.people).toBe(7)
  expect(twice.links.get('perch')).toEqual({ people: 2, team: 1, others: 1, device: 'computer', country: '' })
  expect(once.links.get('perch')?.team).toBe(0)
})
