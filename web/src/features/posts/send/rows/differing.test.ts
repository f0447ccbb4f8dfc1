import { expect, it } from 'vitest'
import { differing } from './differing'

const tagged = (source: string, medium: string, more = '') =>
  `https://northmoor.example/events/geminids?ref=1&utm_source=${source}&utm_medium=${medium}&utm_campaign=winter${more}`

it('addresses of a post show what tells them apart, and leave out what all have', () => {
  expect(
    differing([tagged('perch', 'social'), tagged('night-letter', 'email', '&utm_content=logo')]),
  ).toEqual([
    { parameters: ['utm_source=perch', 'utm_medium=social'], isShortened: true },
    {
      parameters: ['utm_source=night-letter', 'utm_medium=email', 'utm_content=logo'],
      isShortened: true,
    },
  ])
})

it('a single address shows all it has', () =>
  expect(differing([`${tagged('perch', 'social')}#map`])).toEqual([
    {
      parameters: ['ref=1', 'utm_source=perch', 'utm_medium=social', 'utm_campaign=winter'],
      isShortened: false,
    },
  ]))

it('an address without parameters has none to show', () =>
  expect(differing(['https://northmoor.example/'])).toEqual([{ parameters: [], isShortened: false }]))
