// Writes what can be chosen about a link, as the API's document lists it, for the browser's forms.
import { readFile, writeFile } from 'node:fs/promises'

const file = new URL('../web/src/api/linkOptions.ts', import.meta.url)
const document = JSON.parse(await readFile(new URL('../artifacts/openapi/api.json', import.meta.url), 'utf8'))

const source = `// Generated from the API's document: npm run generate.

/** All options of a link, in the order of forms. */
export const linkOptions = ${JSON.stringify(document['x-link-options'])} as const

export type LinkOption = (typeof linkOptions)[number]
`
await writeFile(file, source)
