import { count } from '../../parts/format/numbers'
const shown = 12

/** Line numbers as people write them: "3", "3 and 7", "2–9, 14"; long rows of them are cut. */
export function lineRanges(lines: readonly number[]): string {
  const ranges: Array<[number, number]> = []
  for (const line of lines) {
    const last = ranges.at(-1)
    if (last && line === last[1] + 1) last[1] = line
    else ranges.push([line, line])
  }
  const texts = ranges
    .slice(0, shown)
    .map(([from, to]) => (from === to ? count(from) : `${count(from)}–${count(to)}`))
  return ranges.length > shown ? `${texts.join(', ')} and more` : texts.join(', ')
}
