// Writes the countries that rules can name, as the API's document lists them.
import { readFile, writeFile } from 'node:fs/promises'

const file = new URL('../web/src/api/countries.ts', import.meta.url)
const document = JSON.parse(await readFile(new URL('../artifacts/openapi/api.json', import.meta.url), 'utf8'))

const source = `// Generated from the API's document: npm run generate.

/** The countries of ISO 3166-1 by their English names, as choices, and the unknown one. */
export const countries: Array<{ value: string; label: string }> = ${JSON.stringify(document['x-countries'])}
`
await writeFile(file, source)
