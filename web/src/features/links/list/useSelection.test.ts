import { describe, expect, it } from 'vitest'
import { countOf, has, nobody, selectionOf, withRows } from './useSelection'

describe('picked rows', () => {
  it('are those that were picked and not left again', () => {
    const picked = withRows(withRows(nobody, ['a', 'b'], true), ['b', 'c'], false)
    expect(['a', 'b', 'c'].filter((id) => has(picked, id))).toEqual(['a'])
    expect(countOf(picked, 99)).toBe(1)
    expect(selectionOf(picked, {}, 99)).toEqual({ ids: ['a'] })
  })

  it('are all that are found but for those left out, and say how many there were', () => {
    const all = withRows(withRows({ isAll: true, ids: new Set() }, ['a', 'b'], false), ['b'], true)
    expect(['a', 'b', 'z'].filter((id) => has(all, id))).toEqual(['b', 'z'])
    expect(countOf(all, 12)).toBe(11)
    expect(selectionOf(all, { tag: 'x' }, 12)).toMatchObject({
      filter: { tag: ['x'] },
      except: ['a'],
      expected: 12,
    })
  })
})
