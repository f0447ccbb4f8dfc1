import type { Rule } from './routes'

/** A page in a form. */
export interface PageValues {
  destination: string
  name: string
  weight: number
  /** Whether its share stays when others change. */
  isLocked: boolean
}

export const newPage = (): PageValues => ({ destination: '', name: '', weight: 100, isLocked: false })

/** The pages with whole shares that add up to a hundred: what locked pages leave is shared evenly by the others. */
export function balanced(pages: PageValues[]): PageValues[] {
  const free = pages.filter((page) => !page.isLocked)
  const left = Math.max(
    0,
    100 - pages.filter((page) => page.isLocked).reduce((sum, page) => sum + page.weight, 0),
  )
  const share = Math.floor(left / free.length)
  return pages.map((page) =>
    page.isLocked
      ? page
      : { ...page, weight: share + (free.indexOf(page) < left - share * free.length ? 1 : 0) },
  )
}

/** The pages with the border behind one of them moved by so many percent, as far as both have something to give; both shares stay then. */
export function shifted(pages: PageValues[], border: number, by: number): PageValues[] {
  const [one, other] = [pages[border]!, pages[border + 1]!]
  const given = Math.max(-one.weight, Math.min(other.weight, by))
  return pages.map((page, place) =>
    place === border
      ? { ...page, weight: page.weight + given, isLocked: true }
      : place === border + 1
        ? { ...page, weight: page.weight - given, isLocked: true }
        : page,
  )
}

/** The rules with one of them somewhere else. */
export function moved(rules: Rule[], from: number, to: number): Rule[] {
  const rest = rules.filter((_, place) => place !== from)
  return [...rest.slice(0, to), rules[from]!, ...rest.slice(to)]
}
