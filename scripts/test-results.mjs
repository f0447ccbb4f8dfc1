// Reads what a test runner wrote: prints how many passed and failed, and appends to a file what failed and why. What needed a second try has failed: it says something about the test or the application.
// node scripts/test-results.mjs vitest|playwright RESULTS.json FAILURES.txt
import { appendFileSync, readFileSync } from 'node:fs'

const colours = new RegExp(String.fromCharCode(27) + '\\[[0-9;]*m', 'g')
const begin = (text) => (text ?? '').replaceAll(colours, '').split('\n').slice(0, 8)

const readers = {
  vitest(results) {
    const failed = results.testResults.flatMap((file) =>
      file.assertionResults.filter((test) => test.status === 'failed').map((test) => ({ name: test.fullName, lines: begin(test.failureMessages[0]) })),
    )
    return { passed: results.numPassedTests, count: results.numFailedTests || results.numFailedTestSuites, failed }
  },
  playwright(results) {
    const specs = (suite) => [...(suite.specs ?? []), ...(suite.suites ?? []).flatMap(specs)]
    const failed = results.suites.flatMap(specs).flatMap((spec) => {
      const first = spec.tests.flatMap((test) => test.results).find((result) => result.error)
      return first ? [{ name: `${spec.ok ? 'at the first try only: ' : ''}${spec.file} › ${spec.title}`, lines: begin(first.error.message) }] : []
    })
    return { passed: results.stats.expected, count: results.stats.unexpected + results.stats.flaky, failed }
  },
}

const [kind, file, failures] = process.argv.slice(2)
try {
  const { passed, count, failed } = readers[kind](JSON.parse(readFileSync(file, 'utf8')))
  for (const test of failed) {
    appendFileSync(failures, [`failed ${test.name}`, ...test.lines.map((line) => `  ${line}`), ''].join('\n'))
  }
  console.log(passed, count)
} catch (error) {
  appendFileSync(failures, `${kind} left no results: ${error.message}\n`)
  console.log(0, 1)
}
