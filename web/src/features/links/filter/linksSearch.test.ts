import { describe, expect, it } from 'vitest'
import {
  asList,
  filterOf,
  fromKeptFilter,
  isNarrowed,
  keptFilter,
  listOf,
  readLinksSearch,
} from './linksSearch'

describe('the address of the Links view', () => {
  it('holds names with commas and per cent signs in lists', () => {
    const names = ['open day', '50% off, today', '%2C', 'ü']
    expect(listOf(asList(names))).toEqual(names)
    expect(asList([])).toBeUndefined()
    expect(listOf(undefined)).toEqual([])
  })

  it('passes over what it does not know', () => {
    expect(readLinksSearch({ state: 'lost', tags: 'some', view: 'round', query: 2026, more: 'x' })).toEqual({
      query: '2026',
    })
    expect(isNarrowed(readLinksSearch({ view: 'flat', sort: 'title', without: 'tags' }))).toBe(false)
    expect(isNarrowed(readLinksSearch({ state: 'archived' }))).toBe(true)
  })

  it('becomes the filter of the API, with none for links in no folder', () => {
    expect(filterOf(readLinksSearch({ tag: 'a,b', tags: 'any', folder: '*none,Shop' }))).toMatchObject({
      tag: ['a', 'b'],
      tags: 'any',
      folder: ['', 'Shop'],
    })
  })

  it('comes back from where a filter is kept, without how it was shown', () => {
    const search = readLinksSearch({ query: 'a & b', tag: 'x%2Cy', state: 'never-clicked', view: 'flat' })
    expect(fromKeptFilter(keptFilter(search))).toEqual({ ...search, view: undefined })
    expect(keptFilter(fromKeptFilter(keptFilter(search)))).toBe(keptFilter(search))
  })
})
