import { describe, expect, it } from 'vitest'
import { sections, sectionsLike } from './sections'

const found = (typed: string) => sectionsLike(typed).map((section) => section.id)

describe('settings are found from the address bar', () => {
  it('by their name, in any case', () => expect(found('SHORT dom')).toEqual(['domains']))
  it('by what can be done there', () => expect(found('office network')).toEqual(['counting']))
  it('all at once', () => expect(found('settings')).toEqual(sections.map((section) => section.id)))
  it('and not by nothing', () => expect(found('  ')).toEqual([]))
})

it('each section has an address of its own', () =>
  expect(new Set(sections.map((section) => section.id)).size).toBe(sections.length))
