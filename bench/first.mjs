// From an empty installation to the four links of a first post, copied: how long a newcomer takes.
//
// By the keystroke-level model (Card, Moran and Newell, "The keystroke-level model for user performance time with interactive systems", Communications of the
// ACM 23(7), 1980; values from memory): the sum of what a person does, each kind of step at its usual time, and of what Cursus makes them wait, which is measured.
import { readFileSync } from 'node:fs'
import { chromium } from '../tests/browser/node_modules/@playwright/test/index.mjs'
import { address, tell } from './lib.mjs'

/** Seconds: a key of an average skilled typist, a mouse button, pointing with the mouse, a hand moved to mouse or keyboard, a thought before a step. */
const times = { key: 0.2, button: 0.1, pointing: 1.1, homing: 0.4, thought: 1.35 }
const steps = { key: 0, button: 0, pointing: 0, homing: 0, thought: 0 }
const places = new Set()
let hand = 'keys'
let waited = 0

const browser = await chromium.launch({ executablePath: process.env.CURSUS_CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-dev-shm-usage'] })
const context = await browser.newContext({ baseURL: address, viewport: { width: 1280, height: 800 }, permissions: ['clipboard-read', 'clipboard-write'] })
const page = await context.newPage()
page.on('framenavigated', (frame) => places.add(new URL(frame.url()).pathname))

const think = () => steps.thought++
function move(to) {
  if (hand !== to) steps.homing++
  hand = to
}
async function type(text) {
  move('keys')
  steps.key += text.length
  await page.keyboard.type(text)
}
async function press(keys) {
  move('keys')
  steps.key += keys.split('+').length
  await page.keyboard.press(keys)
}
async function click(target) {
  move('mouse')
  steps.pointing++
  steps.button++
  await target.click()
}
/** Waits for what the person needs to go on, and counts it as waiting. */
async function wait(until) {
  const from = performance.now()
  await until()
  waited += (performance.now() - from) / 1000
}

const code = readFileSync(`${process.env.CURSUS_DATA}/setup.code`, 'utf8').trim()
await page.goto('/sign-in')
await page.evaluate((destination) => navigator.clipboard.writeText(destination), 'https://www.harbour.example/boats')
// The address that is printed where Cursus is started, clicked there.
await wait(async () => {
  await page.goto(`/sign-in#setup=${code}`)
  await page.reload()
  await page.getByLabel('Your name').waitFor()
})
think()
await click(page.getByLabel('Your name'))
for (const text of ['Ines Calloway', 'ines@harbour.example', 'long enough words', 'Harbour Museum']) {
  think()
  await type(text)
  if (text !== 'Harbour Museum') await press('Tab')
}
await press('Enter')
await wait(() => page.getByRole('list', { name: 'Channels to start with' }).waitFor())
think()
await click(page.getByRole('button', { name: 'Use 4 channels' }))
await wait(() => page.getByLabel('Destination').waitFor())
think()
await click(page.getByLabel('Destination'))
await press('Control+V')
await wait(() => page.getByLabel('free').nth(3).waitFor())
think()
await press('Control+Enter')
await wait(() => page.getByRole('button', { name: 'Copy all' }).waitFor())
const copied = new Set()
for (const name of ['Professional network', 'Short posts', 'Friends and groups', 'Newsletter']) {
  think()
  const button = page.getByRole('button', { name: `Copy the address for ${name}` })
  await click(button)
  await button.getByText('Copied').waitFor()
  copied.add(await page.evaluate(() => navigator.clipboard.readText()))
}
await browser.close()

const acted = Object.entries(steps).reduce((sum, [step, count]) => sum + count * times[step], 0)
tell({
  seconds: Number((acted + waited).toFixed(1)),
  acting: Number(acted.toFixed(1)),
  waiting: Number(waited.toFixed(1)),
  steps,
  linksCopied: copied.size,
  visitedSettings: [...places].some((place) => place.startsWith('/settings')),
  atMost: 90,
})
