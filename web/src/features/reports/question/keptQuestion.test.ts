import { expect, it } from 'vitest'
import { asKept, fromKept } from './keptQuestion'
import type { Question } from './question'

const questions: Question[] = [
  {},
  { by: 'post', campaign: 'winter-members', period: 'last-90', compare: 'none' },
  { from: '2026-01-05', to: '2026-02-01', compare: 'year', across: 'medium', course: 'stacked' },
  { by: 'source', channel: 'perch', sort: '-share', without: 'low,high' },
]

it('comes back as it was kept', () => {
  for (const question of questions) expect(asKept(fromKept(asKept(question)))).toBe(asKept(question))
})

it('is complete, so that it is answered the same by whoever asks it', () => {
  expect(asKept({})).toBe('by=channel&compare=previous&period=last-28')
  expect(asKept({ by: 'post', campaign: 'a & b', sort: '-share' })).toBe(
    'by=post&campaign=a+%26+b&compare=previous&period=last-28&sort=-share',
  )
})
