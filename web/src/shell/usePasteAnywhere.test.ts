import { describe, expect, it } from 'vitest'
import { looksLikeAddress } from './usePasteAnywhere'

describe('what begins a post when pasted', () => {
  it.each([
    'https://www.northmoor.example/events',
    'www.northmoor.example',
    'northmoor.example/a?b=c#d',
    ' http://perch.localhost:5081/ ',
  ])('takes %s for an address', (text) => expect(looksLikeAddress(text)).toBe(true))

  it.each([
    'Geminids night',
    'maren@northmoor.example',
    'Look: www.northmoor.example',
    'one.two three',
    '12:30',
    '',
  ])('takes %s for words', (text) => expect(looksLikeAddress(text)).toBe(false))
})
