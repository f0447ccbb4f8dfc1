// Writes docs/performance.md from what the measurements printed: node bench/performance.mjs EDGE.json CRASH.json REPORTS.json
import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { cpus } from 'node:os'

const [edge, crash, reports] = process.argv.slice(2).map((file) => JSON.parse(readFileSync(file, 'utf8').trim().split('\n').at(-1)))
const commit = execFileSync('git', ['rev-parse', '--short', 'HEAD']).toString().trim()
const of = ({ min, median, max }) => `${median.toLocaleString('en')} (${min.toLocaleString('en')} to ${max.toLocaleString('en')})`
const rows = (list) => list.map(([what, value, wanted]) => `| ${what} | ${value} | ${wanted ?? ''} |`).join('\n')

writeFileSync(
  'docs/performance.md',
  `# Performance

Written by \`./cursus bench performance\` on ${new Date().toISOString().slice(0, 10)}, at commit ${commit} or just after it, on ${cpus().length} cores of ${cpus()[0].model.trim()}.
Figures are medians, with the least and the greatest in brackets. Machines differ and are shared, so that only ratios taken in one run say something.

## The edge

${edge.measured}. Requests are those of browsers, each another visitor's, on a million links that are asked for as unevenly as links are.
The program they are held against is the smallest on the same web server that answers a constant 302 (\`bench/constant302\`).

| measured | figure | wanted |
|---|---|---|
${rows([
  ['links in memory', `${edge.links.toLocaleString('en')} in ${edge.megabytesOfLinks} MB, ${edge.bytesALink} bytes a link`, 'under 500 MB, at most 400 bytes'],
  ['seconds to load them at the start, on one core', edge.secondsToLoadThem.toFixed(1), 'under 10'],
  ['requests a second of the constant program', of(edge.constantPerSecond)],
  ['the edge in a burst that the journal absorbs, as part of it', of(edge.burstOfConstant), 'at least 0.85'],
  [`the same on ${edge.routedLinks.toLocaleString('en')} links with five rules and a split, as part of it`, of(edge.routedOfConstant), 'at least 0.5'],
  ['99th percentile in the burst, as multiple of it', of(edge.burstP99OfConstant), 'at most 1.5'],
  ['the edge under lasting load, database on the same core, as part of it', of(edge.sustainedOfConstant), 'at least 0.55'],
  ['99th percentile under lasting load, as multiple of it', of(edge.sustainedP99OfConstant)],
  ['part of those clicks that was in the database when the load ended', of(edge.sustainedShippedMeanwhile)],
  ['clicks a second from the journal into the database, all roll-ups kept', of(edge.drainedClicksPerSecond), 'at least 40,000'],
  ['the same program with an insert for each click, as part of it', of(edge.insertPerClickOfConstant)],
])}

## Losing nothing

${crash.measured}. Each visit has a referrer of its own, so that every single one can be looked for afterwards.

| counted | |
|---|---|
| visits that were answered | ${crash.answered.toLocaleString('en')} |
| of these while there was no database | ${crash.answeredWhileTheDatabaseWasAway.toLocaleString('en')} |
| answered and not in the database | ${crash.lost} |
| in the database twice | ${crash.countedTwice} |

## Answering

${reports.measured}. Each question is asked of the API in turn. Wanted: every breakdown in under 300 ms at the 95th percentile.

| question | p50, ms | p95, ms |
|---|---|---|
${Object.entries(reports.milliseconds).map(([name, { p50, p95 }]) => `| ${name} | ${p50} | ${p95} |`).join('\n')}

| measured | figure | wanted |
|---|---|---|
${rows([
  ...Object.entries(reports.timesAsLongOverTheClicks).map(([name, ratio]) => [`the same count over the clicks themselves, as multiple of the whole answer: ${name}`, ratio]),
  ['memory that the server took at most while it answered all of them', `${reports.serverMegabytes} MB, ${reports.serverBytesAClick} bytes a click`],
  ['bytes that a click takes on the disk, with indexes and roll-ups', reports.bytesAClick, 'at most 125'],
  ['of these roll-ups', reports.ofTheseRollUps],
])}
`,
)
