// What a hostile page, file, visitor or colleague costs: each input is sent once while visitors follow links at a steady pace. Told are, for each, the processor time of the server, the memory
// that it took beside, how much slower visitors were led on than in quiet (99th percentile), and how late their visits reached the reports. Fails where something answers with 500, where a visit
// is lost, or where a bound of the list below is passed.
import { createServer, request } from 'node:http'
import { deflateRawSync, crc32 } from 'node:zlib'
import { address, ask, tell } from './lib.mjs'
import { headers, memory, pause, port, processorSeconds, shipped, state, visitors } from './watch.mjs'

const small = process.argv.includes('--small')
const bounds = { cpuSeconds: 2, memoryMegabytes: 200, slower: 3, lateSeconds: 5 }
// No attack but the largest work that a member may give: what it costs visitors is told, and bounded twice as wide.
const largestWork = 'the longest list'
const link = await ask('POST', '/links', { title: 'While somebody is at it', destination: 'https://www.northmoor.example/abuse' })

const statuses = {}
const failures = []
async function send(path, options = {}) {
  try {
    const response = await fetch(`${address}/api/v1${path}`, { ...options, headers: { ...headers, ...options.headers } })
    const text = await response.text()
    statuses[response.status] = (statuses[response.status] ?? 0) + 1
    if (response.status >= 500 && response.status !== 503) failures.push(`${options.method ?? 'GET'} ${path} answered ${response.status}: ${text.slice(0, 200)}`)
    return response.status
  } catch (error) {
    return String(error)
  }
}

const file = (type, body) => ({ method: 'POST', headers: { 'Content-Type': type }, body })

/** A ZIP of these files. */
function zip(files) {
  const [parts, directory] = [[], []]
  let offset = 0
  for (const [name, content] of files) {
    const [bytes, title] = [Buffer.from(content), Buffer.from(name)]
    const packed = deflateRawSync(bytes)
    const head = Buffer.alloc(26)
    head.writeUInt16LE(20, 0)
    head.writeUInt16LE(8, 4)
    head.writeUInt32LE(crc32(bytes), 10)
    head.writeUInt32LE(packed.length, 14)
    head.writeUInt32LE(bytes.length, 18)
    head.writeUInt16LE(title.length, 22)
    parts.push(Buffer.from('PK\x03\x04'), head, title, packed)
    const entry = Buffer.alloc(42)
    entry.writeUInt16LE(20, 0)
    head.copy(entry, 2)
    entry.writeUInt32LE(offset, 38)
    directory.push(Buffer.from('PK\x01\x02'), entry, title)
    offset += 4 + head.length + title.length + packed.length
  }
  const list = Buffer.concat(directory)
  const end = Buffer.alloc(18)
  end.writeUInt16LE(files.length, 4)
  end.writeUInt16LE(files.length, 6)
  end.writeUInt32LE(list.length, 8)
  end.writeUInt32LE(offset, 12)
  return Buffer.concat([...parts, list, Buffer.from('PK\x05\x06'), end])
}

const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main'
const office = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships'
const workbook = (rows, texts) =>
  zip([
    ['[Content_Types].xml', '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"/>'],
    ['xl/workbook.xml', `<workbook xmlns="${main}" xmlns:r="${office}"><sheets><sheet name="L" sheetId="1" r:id="rId1"/></sheets></workbook>`],
    ['xl/_rels/workbook.xml.rels', `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="${office}/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`],
    ['xl/worksheets/sheet1.xml', `<worksheet xmlns="${main}"><sheetData>${rows}</sheetData></worksheet>`],
    ...(texts ? [['xl/sharedStrings.xml', `<sst xmlns="${main}">${texts}</sst>`]] : []),
  ])

// A site that answers with what parsers choke on.
const pages = {
  '/div': '<html>' + '<div>'.repeat(200_000),
  '/b': '<html>' + '<b>'.repeat(330_000),
  '/attributes': `<html><p ${Array.from({ length: 100_000 }, (_, n) => `a${n}=1`).join(' ')}>`,
  '/entities': '<title>' + '&notin;'.repeat(140_000),
}
const site = createServer((asked, answer) => answer.writeHead(200, { 'Content-Type': 'text/html' }).end(pages[asked.url] ?? 'ok'))
await new Promise((listening) => site.listen(0, '127.0.0.1', listening))
const sitePort = site.address().port

const letters = (n) => Array.from({ length: n }, () => String.fromCharCode(97 + Math.random() * 26)).join('')
const reports = ['by=channel', 'by=campaign&days=90', 'by=link&days=400', 'by=country', 'by=weekday&days=400']
let made = 0

/** What is sent, made ready before it is measured. */
const inputs = {
  ...Object.fromEntries(Object.keys(pages).map((page) => [`page ${page}`, () => () => send(`/destinations/look?address=${encodeURIComponent(`http://abuse.localhost:${sitePort}${page}`)}`)])),
  'made-up agents': () => {
    const agents = Array.from({ length: small ? 200 : 1000 }, () => letters(388))
    made += agents.length
    return () =>
      Promise.all(
        agents.map((agent) => new Promise((done) => request({ host: '127.0.0.1', port, path: `/${link.slug}`, headers: { Host: link.domain, 'User-Agent': agent } }, (answer) => answer.resume().on('end', done)).end())),
      )
  },
  'a row of number 2147483647': upload('/batches?name=a.xlsx', 'application/octet-stream', () => workbook('<row r="2147483647"><c r="A2147483647"/></row>')),
  'a cell of 200 MB': upload('/batches?name=a.xlsx', 'application/octet-stream', () => workbook(`<row r="1"><c r="A1" t="inlineStr"><is><t>${'x'.repeat(200_000_000)}</t></is></c></row>`)),
  'endless shared texts': upload('/batches?name=a.xlsx', 'application/octet-stream', () => workbook('<row r="1"/>', '<si><t>a</t></si>'.repeat(8_000_000))),
  'a logo of nested groups': upload('/code-logos?name=a', 'image/svg+xml', () => `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9">${'<g>'.repeat(100_000)}${'</g>'.repeat(100_000)}</svg>`),
  'a hundred thousand tags': upload('/links', 'application/json', () => JSON.stringify({ destination: 'https://www.northmoor.example/tags', tags: Array.from({ length: 100_000 }, (_, n) => `tag ${n}`) })),
  'the longest list': upload('/batches?name=longest.csv', 'text/csv', () => Buffer.from('destination,title,note\n' + Array.from({ length: 100_000 }, (_, n) => `https://www.northmoor.example/${n}/${'p'.repeat(120)},Line ${n},${'n'.repeat(120)}\n`).join(''))),
  'an archive that is none': upload('/archive', 'application/zip', () => Buffer.alloc(50_000_000, 'PK')),
  'a long text everywhere': () => {
    const body = JSON.stringify({ name: 'x'.repeat(5_000_000), title: 'x'.repeat(5_000_000) })
    return () => Promise.all(['/links', '/posts', '/campaigns', '/channels', '/tags', '/views'].map((path) => send(path, file('application/json', body))))
  },
  'a hundred reports at once': () => () => Promise.all(Array.from({ length: 100 }, (_, n) => send(`/reports/breakdown?${reports[n % reports.length]}`))),
}

/** A file that is made once and sent each time. */
function upload(path, type, make) {
  let content
  return () => {
    content ??= make()
    return () => send(path, file(type, content))
  }
}

const seconds = small ? 1.5 : 3
const told = async () => {
  const { total, excluded } = await ask('GET', `/reports/breakdown?by=link&link=${link.id}`)
  return Object.values(excluded).reduce((sum, count) => sum + count, total.clicks)
}

/** Visitors while `run` runs, for some seconds at least. */
async function during(run) {
  const stop = await visitors(link)
  const [from, cpuBefore] = [performance.now(), processorSeconds()]
  await run()
  const used = processorSeconds() - cpuBefore
  await pause(Math.max(0, seconds - (performance.now() - from) / 1000))
  return { ...(await stop()), used }
}

await during(() => {})
await shipped()
const figures = {}
const before = await told()
let visits = 0
const rounds = small ? 1 : 5
const only = process.argv.find((a) => a.startsWith('--only='))?.slice('--only='.length) ?? ''
for (const [name, prepare] of Object.entries(inputs).filter(([name]) => name.includes(only))) {
  const tries = []
  for (let round = 0; round < rounds; round++) {
    const input = prepare()
    const still = await during(() => {})
    const memoryBefore = memory()
    let [most, late] = [memoryBefore, 0]
    const watching = setInterval(() => (most = Math.max(most, memory())), 20)
    const lag = setInterval(() => state().then((now) => (late = Math.max(late, now.oldestWaitingSeconds)), () => {}), 200)
    const loud = await during(input)
    clearInterval(watching)
    clearInterval(lag)
    await shipped()
    visits += still.count + loud.count
    if (still.failed + loud.failed > 0) failures.push(`${name}: ${still.failed + loud.failed} visits were not led on`)
    tries.push({ cpuSeconds: Math.max(0, loud.used - still.used), memoryMegabytes: most - memoryBefore, slower: loud.p99 / still.p99, lateSeconds: late, quietP99: still.p99, loudP99: loud.p99 })
  }
  const middle = (key) => Number(tries.map((t) => t[key]).toSorted((a, b) => a - b)[Math.floor(rounds / 2)].toFixed(2))
  figures[name] = Object.fromEntries(Object.keys(tries[0]).map((key) => [key, middle(key)]))
}
site.close()

const counted = (await told()) - before
visits += made
figures.answers = statuses
figures.visits = { made: visits, counted }
if (counted !== visits) failures.push(`${visits} visits were led on, ${counted} stand in the reports`)
for (const [name, figure] of Object.entries(figures)) for (const [key, bound] of Object.entries(bounds)) if (figure[key] > (name === largestWork && key === 'slower' ? 2 * bound : bound)) failures.push(`${name}: ${key} is ${figure[key]}, more than ${bound}`)
figures.failures = failures
tell(figures)
process.exit(failures.length > 0 ? 1 : 0)
