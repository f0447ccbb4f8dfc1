// What a link with pixels costs a visitor: the same page, reached over a link without pixels and over one that tells three ad networks, in turns, in a real browser on this machine.
// And whether it does what it is for: how many visits the networks really heard of, of those who were not asked and of those whose browser says no.
import { get } from 'node:http'
import { chromium } from '../tests/browser/node_modules/@playwright/test/index.mjs'
import { address, ask, spread, tell } from './lib.mjs'

const rounds = 20
const userAgent = 'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36'
const standins = Number(new URL(address).port) + 1

await ask('PATCH', '/handoff', { consent: 'off' })
const pixels = (await ask('GET', '/pixels')).items.map((pixel) => pixel.id)
const link = (more) => ask('POST', '/links', { destination: `http://skycalendar.localhost:${standins}/articles/comet`, ...more })
const ways = { plain: await link({}), withPixels: await link({ pixels }) }

const browser = await chromium.launch({
  executablePath: process.env.CURSUS_CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-dev-shm-usage', `--user-agent=${userAgent}`],
})
const page = await (await browser.newContext()).newPage()

let firstByte = 0
let bytes = 0
const session = await page.context().newCDPSession(page)
await session.send('Network.enable')
session.on('Network.responseReceived', ({ type, response, requestId, timestamp }) => {
  if (type === 'Document' && response.url === ways.withPixels.shortUrl) firstByte = { requestId, timestamp }
})
session.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
  if (requestId === firstByte.requestId) bytes = encodedDataLength
})
let left = 0
session.on('Network.requestWillBeSent', ({ type, request, timestamp }) => {
  if (type === 'Document' && request.url.includes('skycalendar')) left = timestamp
})

/** Seconds from asking for the short address until the page behind it is there. */
async function arrive(way) {
  const began = performance.now()
  await page.goto(ways[way].shortUrl, { waitUntil: 'commit' })
  await page.locator('#arrival').waitFor()
  return (performance.now() - began) / 1000
}

const seconds = { plain: [], withPixels: [] }
const between = []
for (let round = -2; round < rounds; round++) {
  for (const way of Object.keys(ways)) {
    const taken = await arrive(way)
    // The first rounds start the server's and the browser's engines.
    if (round < 0) continue
    seconds[way].push(taken)
    if (way === 'withPixels') between.push((left - firstByte.timestamp) * 1000)
  }
}

const optedOut = await (await browser.newContext({ extraHTTPHeaders: { 'Sec-GPC': '1' } })).newPage()
const refusing = await link({ pixels })
for (let round = 0; round < rounds; round++) {
  await optedOut.goto(refusing.shortUrl, { waitUntil: 'commit' })
  await optedOut.locator('#arrival').waitFor()
}
await page.waitForTimeout(1000)
await browser.close()
await ask('PATCH', '/handoff', { consent: 'listed' })

/** Visits of a short address that an ad network has heard of. */
async function heardOf(network, { slug }) {
  const visits = await new Promise((resolve, reject) =>
    get({ host: 'localhost', port: standins, path: '/visits.json', headers: { Host: `${network}.localhost` } }, async (response) =>
      resolve(JSON.parse((await response.toArray()).join(''))),
    ).on('error', reject),
  )
  return visits.filter((visit) => visit.address.endsWith(`/${slug}`)).length
}
const networks = ['fairlead', 'beaconry', 'guildhall-ads']
const heard = async (of) => Object.fromEntries(await Promise.all(networks.map(async (network) => [network, await heardOf(network, of)])))

tell({
  measured: `a page reached over a plain link and over one with ${pixels.length} pixels, ${rounds} times in turns`,
  visits: rounds + 2,
  heardOf: await heard(ways.withPixels),
  visitsOfThoseWhoOptedOut: rounds,
  heardOfThose: await heard(refusing),
  pageBytesOnTheWire: bytes,
  millisecondsFromFirstByteToNavigation: spread(between),
  secondsPlain: spread(seconds.plain),
  secondsWithPixels: spread(seconds.withPixels),
  timesThePlainLink: spread(seconds.withPixels.map((s, i) => s / seconds.plain[i])),
})
