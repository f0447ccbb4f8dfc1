import { parseSearchWith } from '@tanstack/react-router'
import { readQuestion, toReport, type Question } from './question'

const parse = parseSearchWith((value) => value)

/** A question with how it is shown, as a saved view keeps it: the same question makes the same text. */
export function asKept(question: Question): string {
  const { across, course, sort, without } = question
  const kept = { ...toReport(question), across, course, sort, without }
  return new URLSearchParams(
    Object.entries(kept)
      .flatMap(([name, value]) =>
        value === undefined ? [] : [value].flat().map((one): [string, string] => [name, one]),
      )
      .toSorted(([a], [b]) => (a < b ? -1 : 1)),
  ).toString()
}

/** The question that a saved view keeps. */
export const fromKept = (kept: string): Question => readQuestion(parse(`?${kept}`))
