// Writes what clicks can be grouped by, as the API's document lists it, for the browser to choose from.
import { readFile, writeFile } from 'node:fs/promises'

const file = new URL('../web/src/api/dimensions.ts', import.meta.url)
const document = JSON.parse(await readFile(new URL('../artifacts/openapi/api.json', import.meta.url), 'utf8'))
const dimensions = document['x-dimensions'].filter((d) => d.isChosen)
const names = (which) => JSON.stringify(dimensions.filter(which).map((d) => d.name))
const pairs = (value) =>
  JSON.stringify(Object.fromEntries(dimensions.filter(value).map((d) => [d.name, value(d)])))

const source = `// Generated from the API's document: npm run generate.

/** What can be compared, as the question words it. */
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
`
await writeFile(file, source)
