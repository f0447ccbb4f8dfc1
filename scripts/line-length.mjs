// Lines of C# are at most as long as .editorconfig says. Texts are left whole, so that a sentence or a statement can be searched for as it stands: a line may go on for as long as a string does.
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'

const limit = Number(/max_line_length = (\d+)/.exec(readFileSync('.editorconfig', 'utf8'))[1])
const files = execFileSync('git', ['ls-files', '*.cs'], { encoding: 'utf8' })
  .split('\n')
  .filter((file) => file && !file.includes('/Migrations/'))

/** Whether a string reaches over the limit: one that begins before it and ends behind it, apart from what closes the call. */
const holdsText = (line) => {
  const last = line.lastIndexOf('"')
  return line.indexOf('"') < limit && last >= limit - 10
}

const long = files.flatMap((file) => {
  let isRaw = false
  return readFileSync(file, 'utf8')
    .split('\n')
    .flatMap((line, index) => {
      const wasRaw = isRaw
      if ((line.match(/"""/g) ?? []).length % 2 === 1) isRaw = !isRaw
      const isComment = !wasRaw && /^\s*\/\//.test(line)
      return [...line].length > limit && !wasRaw && (isComment || !holdsText(line)) ? [`${file}:${index + 1} has ${[...line].length} characters`] : []
    })
})
if (long.length > 0) {
  console.error(`Lines of more than ${limit} characters:\n${long.join('\n')}`)
  process.exit(1)
}
