import { expect, it } from 'vitest'
import { proposedDomain } from './proposedDomain'

it('is the organisation’s name below .localhost, on the machine that runs Cursus', () => {
  expect(proposedDomain('Orion Café & Friends', 'localhost')).toBe('orion-cafe-friends.localhost')
  expect(proposedDomain('Orion', 'cursus.localhost')).toBe('orion.localhost')
  expect(proposedDomain('A'.repeat(80), 'localhost')).toHaveLength(50 + '.localhost'.length)
})

it('is nothing elsewhere, or without a name', () => {
  expect(proposedDomain('Orion', 'cursus.northmoor.example')).toBe('')
  expect(proposedDomain(' — ', 'localhost')).toBe('')
})
