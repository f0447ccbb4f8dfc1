import type { CSSProperties } from 'react'

const [thinnest, widest] = [2, 12]

/** A line's width in pixels by the part of the people who went that way. */
export const widthOf = (people: number, all: number) =>
  all === 0 ? thinnest : Math.round(thinnest + (widest - thinnest) * (people / all))

/**
 * How wide the lines of each branch are drawn: the one that leaves the trunk, and the trunk from there on.
 *
 * @param people By branch, from the top; undefined where they aren't known.
 */
export function linesOf(people: Array<number | undefined>): CSSProperties[] {
  const all = people.reduce<number>((sum, n) => sum + (n ?? 0), 0)
  let rest = all
  return people.map((n) => {
    const trunk = widthOf(rest, all)
    rest -= n ?? 0
    return {
      '--trunk': `${trunk}px`,
      '--rest': `${widthOf(rest, all)}px`,
      '--twig': `${widthOf(n ?? 0, all)}px`,
    } as CSSProperties
  })
}
