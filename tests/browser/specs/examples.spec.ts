import { execFile } from 'node:child_process'
import { mkdtemp, readFile, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { expect, test } from '@playwright/test'
import ts from 'typescript'
import { address, call, signIn, unique } from './people'

const run = promisify(execFile)
const examples = join(import.meta.dirname, '../../../docs/examples')

/** What an example prints, run by itself: below the project it would be built by the project's rules. */
async function printed(file: string, token: string) {
  const env = { ...process.env, CURSUS: address, CURSUS_TOKEN: token }
  const folder = await mkdtemp(join(tmpdir(), 'cursus-example-'))
  const text = await readFile(join(examples, file), 'utf8')
  const isTypeScript = file.endsWith('.ts')
  const [program, name] = file.endsWith('.sh') ? ['bash', file] : isTypeScript ? ['node', 'example.mjs'] : ['dotnet', file]
  const options = { target: ts.ScriptTarget.ESNext, module: ts.ModuleKind.ESNext }
  await writeFile(join(folder, name), isTypeScript ? ts.transpile(text, options) : text)
  return (await run(program, program === 'dotnet' ? ['run', name] : [name], { env, cwd: folder })).stdout
}

test('the examples of the reference make links and compare channels', async ({ page }) => {
  test.setTimeout(300_000)
  await signIn(page)
  const { token } = await call<{ token: string }>(page, 'POST', 'tokens', { name: unique('Examples'), scope: 'make-links' })
  for (const ending of ['sh', 'cs', 'ts']) {
    expect(await printed(`make-links.${ending}`, token), ending).toMatch(/nmoor\.localhost/)
    expect(await printed(`compare.${ending}`, token), ending).toMatch(/Guildhall/)
  }
  const reference = (await (await page.request.get('/api/openapi.json')).json()) as { paths: Record<string, Record<string, { 'x-codeSamples'?: { label: string }[] }>> }
  expect(reference.paths['/api/v1/posts']!.post!['x-codeSamples']!.map((s) => s.label)).toEqual(['curl', 'C#', 'TypeScript'])
})
