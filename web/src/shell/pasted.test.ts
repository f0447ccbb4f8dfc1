import { describe, expect, it } from 'vitest'
import { looksLikeAddress, looksLikeList } from './pasted'

describe('what begins a post when pasted', () => {
  it.each([
    'https://www.northmoor.example/events',
    'www.northmoor.example',
    'northmoor.example/a?b=c#d',
    ' http://perch.localhost:5081/ ',
    '“https://www.northmoor.example/events”,',
    '<https://www.northmoor.example/events>',
    'www.northmoor.example).',
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

describe('what begins a list when pasted', () => {
  it.each(['northmoor.example\nnorthmoor.example/shop\n', 'a.example\tWinter sky\nb.example\tShop'])(
    'takes several addresses, one a line',
    (text) => expect(looksLikeList(text)).toBe(true),
  )

  it.each(['northmoor.example', 'northmoor.example\nand then some prose', ''])(
    'takes no single address and no prose',
    (text) => expect(looksLikeList(text)).toBe(false),
  )
})
