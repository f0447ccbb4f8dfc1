import { describe, expect, it } from 'vitest'
import { groupByPost } from './groups'
import type { Link } from './links'

const link = (id: string, post?: string) => ({ id, post: post ? { id: post, title: post } : null }) as Link

describe('links grouped by post', () => {
  it('puts consecutive links of one post under its heading', () => {
    const groups = groupByPost([
      link('a', 'p'),
      link('b', 'p'),
      link('c'),
      link('d'),
      link('e', 'q'),
      link('f', 'p'),
    ])
    expect(groups.map((g) => [g.key, g.links.map((l) => l.id).join('')])).toEqual([
      ['p', 'ab'],
      ['single', 'cd'],
      ['q', 'e'],
      ['p', 'f'],
    ])
  })

  it('has no group where there are no links', () => expect(groupByPost([])).toEqual([]))
})
