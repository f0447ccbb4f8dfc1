import { describe, expect, it } from 'vitest'
import { linesOf } from './groups'
import type { Link } from '../links'

const link = (id: string, post?: string) => ({ id, post: post ? { id: post, title: post } : null }) as Link

const told = (links: Link[], isFlat = false) =>
  linesOf(links, isFlat).map((line) =>
    line.kind === 'link'
      ? line.link.id
      : `${line.post?.title ?? 'single'}: ${line.links.map((l) => l.id).join('')}`,
  )

describe('links grouped by post', () => {
  const links = [link('a', 'p'), link('b', 'p'), link('c'), link('d'), link('e', 'q'), link('f', 'p')]

  it('puts consecutive links of one post under its heading', () =>
    expect(told(links)).toEqual(['p: ab', 'a', 'b', 'single: cd', 'c', 'd', 'q: e', 'e', 'p: f', 'f']))

  it('has no headings in one list, and each line a key of its own', () => {
    expect(told(links, true)).toEqual(['a', 'b', 'c', 'd', 'e', 'f'])
    expect(new Set(linesOf(links, false).map((line) => line.key)).size).toBe(10)
  })

  it('has no line where there are no links', () => expect(linesOf([], false)).toEqual([]))
})
