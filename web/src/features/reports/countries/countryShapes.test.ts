import { readFileSync } from 'node:fs'
import { describe, expect, test } from 'vitest'
import { countryShapes, isDrawn, mapSize } from './countryShapes'

/** The codes that the server tells, by its own list of ISO 3166-1. */
const told = readFileSync(
  new URL('../../../../../src/Cursus.Core/Clicks/Countries/countries.txt', import.meta.url),
  'utf8',
)
  .split('\n')
  .filter((line) => line !== '' && !line.startsWith('#'))
  .map((line) => line.split('\t')[0]!)

const numbersOf = (path: string) => path.match(/-?\d+(\.\d+)?/g)!.map(Number)

/** The middle of a country's frame, to the right and downwards. */
function middleOf(code: string) {
  const numbers = numbersOf(countryShapes.find((shape) => shape.code === code)!.path)
  const [x, y] = [0, 1].map((odd) => numbers.filter((_, place) => place % 2 === odd))
  return { x: (Math.min(...x!) + Math.max(...x!)) / 2, y: (Math.min(...y!) + Math.max(...y!)) / 2 }
}

describe('the map of countries', () => {
  test('knows each land by the letters that clicks tell, but for two that have none', () => {
    expect(countryShapes.filter((shape) => shape.code === undefined)).toHaveLength(2)
    expect(countryShapes.flatMap((shape) => shape.code ?? []).filter((code) => !told.includes(code))).toEqual(
      [],
    )
    expect(new Set(countryShapes.flatMap((shape) => shape.code ?? [])).size).toBe(countryShapes.length - 2)
  })

  test('draws all but small islands and the smallest states', () => {
    expect(countryShapes.length).toBeGreaterThan(170)
    expect(['GB', 'IE', 'DE', 'US', 'XK', 'LU', 'TT', 'FJ'].every(isDrawn)).toBe(true)
    expect(['MT', 'SG', 'VA', 'AQ', ''].some(isDrawn)).toBe(false)
  })

  test('has north above, west to the left, and everything within its frame', () => {
    expect(middleOf('NO').y).toBeLessThan(middleOf('IT').y)
    expect(middleOf('IT').y).toBeLessThan(middleOf('ZA').y)
    expect(middleOf('PT').x).toBeLessThan(middleOf('PL').x)
    expect(middleOf('PL').x).toBeLessThan(middleOf('JP').x)
    const numbers = countryShapes.flatMap((shape) => numbersOf(shape.path))
    expect(Math.min(...numbers)).toBeGreaterThanOrEqual(0)
    expect(Math.max(...numbers)).toBeLessThanOrEqual(mapSize.width)
  })

  test('is drawn in files from the same shapes', async () => {
    const lines = countryShapes.map(({ code, path }) => `${code ?? ''}\t${path}\n`)
    await expect(`${mapSize.width}\t${mapSize.height}\n${lines.join('')}`).toMatchFileSnapshot(
      '../../../../../src/Cursus.Web/Reports/Pictures/country-shapes.tsv',
    )
  })
})
