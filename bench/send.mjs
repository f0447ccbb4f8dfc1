// One post to five channels with own slugs, tags and UTM, by keyboard alone, at the pace of a practised person.
//
// The pace is the keystroke-level model's (Card, Moran and Newell, Communications of the ACM 23(7), 1980; values from memory): 0.12 s for a key of a good
// typist, 1.35 s of thought before each step that has to be decided on. What is left over is what Cursus makes a person wait.
import { chromium } from '../tests/browser/node_modules/@playwright/test/index.mjs'
import { address, spread, tell, timed } from './lib.mjs'

const key = 120
const thought = 1350
const rounds = 3
const browser = await chromium.launch({ executablePath: process.env.CURSUS_CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-dev-shm-usage'] })
const context = await browser.newContext({ baseURL: address, viewport: { width: 1280, height: 800 }, permissions: ['clipboard-read', 'clipboard-write'] })
const page = await context.newPage()
await page.goto('/')
await page.getByRole('button', { name: /Maren Holloway/ }).click()
await page.waitForURL('**/send')

let keys = 0
let thoughts = 0
const think = () => (thoughts++, page.waitForTimeout(thought))
const press = async (name) => {
  keys++
  await page.waitForTimeout(key)
  await page.keyboard.press(name)
}
const type = async (text) => {
  keys += text.length
  await page.keyboard.type(text, { delay: key })
}

const isFocused = (field) => field.evaluate((element) => element === document.activeElement)
const tabTo = async (field) => {
  while (!(await isFocused(field))) await press('Tab')
}

const seconds = []
for (let round = 0; round <= rounds; round++) {
  ;[keys, thoughts] = [0, 0]
  await page.goto('/links')
  await page.getByRole('heading', { level: 1 }).waitFor()
  await page.evaluate((to) => navigator.clipboard.writeText(to), `https://www.northmoor.localhost/mirrors-${round}`)
  const taken = await timed(async () => {
    await think()
    await press('Control+V')
    await page.waitForURL('**/send?to=*')
    await page.getByLabel('Destination').waitFor()
    await press('Tab')
    await think()
    await type('winter')
    await press('Enter')
    await tabTo(page.getByLabel('Title', { exact: true }))
    await think()
    await type('Mirrors')
    const slugs = ['gu', 'pe', 'he', 'ap', 'lo'].map((channel) => `mirrors-${round}-${channel}`)
    await think()
    await tabTo(page.getByLabel('Slug for Guildhall'))
    for (const slug of slugs) {
      await type(slug)
      await press('Enter')
    }
    await think()
    await tabTo(page.getByRole('combobox', { name: 'Tags' }))
    await type('mirrors')
    await press('Enter')
    await press('Control+Enter')
    await page.waitForURL('**/posts/*')
    await page.getByText(`mirrors-${round}-lo`).first().waitFor()
  })
  // The first round ticks the five channels that are remembered afterwards.
  if (round > 0) seconds.push(taken)
  else {
    await page.goto('/send')
    await page.getByRole('checkbox', { name: /^Send to/ }).first().waitFor()
    await page.evaluate(() => localStorage.setItem('cursus-last-channels', JSON.stringify(['guildhall', 'perch', 'hearthside', 'aperta', 'longreel'])))
  }
}
await browser.close()

const ofThePerson = (keys * key + thoughts * thought) / 1000
tell({
  measured: `one post to five channels with own slugs, tag and UTM, by keyboard alone, ${rounds} times`,
  keys,
  thoughts,
  secondsThatThePersonNeeds: ofThePerson,
  seconds: spread(seconds),
  timesWhatThePersonNeeds: spread(seconds.map((s) => s / ofThePerson)),
})
