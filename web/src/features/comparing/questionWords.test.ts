import { expect, it } from 'vitest'
import type { Breakdown } from './question'
import { inWords } from './questionWords'

const answer = (before: Breakdown['before']) =>
  ({ from: '2026-11-01', to: '2026-11-07', before }) as Breakdown

it('says a question as one sentence', () => {
  expect(inWords({}, answer(null))).toBe('Which channel brought the most clicks in the last 28 days?')
  expect(
    inWords(
      { by: 'content', campaign: 'winter-members', channel: 'perch', from: '2026-11-01', to: '2026-11-07' },
      answer({ from: '2026-10-25', to: '2026-10-31' }),
    ),
  ).toBe(
    'Which variant brought the most clicks for channel perch, campaign winter-members from 1 Nov 2026 to 7 Nov 2026, against 25 Oct 2026 to 31 Oct 2026?',
  )
})
