// Writes the lists of the API's document from which the browser's forms are made: what clicks can be grouped by, what can be chosen about a link,
// and the countries that rules can name.
import { readFile, writeFile } from 'node:fs/promises'

const document = JSON.parse(await readFile(new URL('../artifacts/openapi/api.json', import.meta.url), 'utf8'))

const write = (file, source) =>
  writeFile(
    new URL(`../web/src/api/${file}`, import.meta.url),
    `// Generated from the API's document: npm run generate.\n\n${source}`,
  )

const dimensions = document['x-dimensions'].filter((d) => d.isChosen)
const names = (which) => JSON.stringify(dimensions.filter(which).map((d) => d.name))
const pairs = (value) =>
  JSON.stringify(Object.fromEntries(dimensions.filter(value).map((d) => [d.name, value(d)])))

await write(
  'dimensions.ts',
  `/** What can be compared, as the question words it. */
export const dimensions = ${pairs((d) => d.words)} as const

export type Dimension = keyof typeof dimensions

/** What the link of a click decides: only by these can posts be compared that have a life of their own. */
export const ofLink: readonly Dimension[] = ${names((d) => d.isOfLink)}

/** What posts belong to by their links, so that clicks per post can be asked for. */
export const withPosts: readonly Dimension[] = ${names((d) => d.hasPosts)}

/** Pages that clicks were led to, and not what brought them. */
export const ofPages: readonly Dimension[] = ${names((d) => d.isOfPages)}

/** What an answer may be narrowed to. */
export const filters = ${names((d) => d.isFilter)} as const

export type Filter = (typeof filters)[number]

/** What is asked next when a figure is opened. */
export const nextOf: Partial<Record<Dimension, Dimension>> = ${pairs((d) => d.next)}
`,
)

await write(
  'linkOptions.ts',
  `/** All options of a link, in the order of forms. */
export const linkOptions = ${JSON.stringify(document['x-link-options'])} as const

export type LinkOption = (typeof linkOptions)[number]
`,
)

await write(
  'countries.ts',
  `/** The countries of ISO 3166-1 by their English names, as choices, and the unknown one. */
export const countries: Array<{ value: string; label: string }> = ${JSON.stringify(document['x-countries'])}
`,
)
