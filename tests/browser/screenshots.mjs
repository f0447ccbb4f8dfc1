// Takes the pictures of docs/screenshots/ from a running demo: node tests/browser/screenshots.mjs [address]
import { chromium } from '@playwright/test'
import { fileURLToPath } from 'node:url'

const address = process.argv[2] ?? 'http://localhost:5080'
const standins = Number(new URL(address).port) + 1
const folder = fileURLToPath(new URL('../../docs/screenshots/', import.meta.url))

const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-dev-shm-usage'] })
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce', colorScheme: 'light' })

async function picture(name) {
  // Clicks are watched over a connection that never ends, so that the network is never idle.
  await page.waitForTimeout(1500)
  await page.screenshot({ path: `${folder}${name}.png` })
}

await page.goto(address)
await page.getByRole('button', { name: /Maren Holloway/ }).waitFor()
await picture('sign-in')
await page.getByRole('button', { name: /Maren Holloway/ }).click()
await page.waitForURL('**/send')
await page.getByLabel('Destination').fill(`www.northmoor.localhost:${standins}/events/geminids-night`)
await page.getByLabel('Campaign', { exact: true }).fill('winter members')
await page.waitForTimeout(300)
await page.keyboard.press('Enter')
await page.getByLabel('Slug for Perch').fill('geminids-perch')
await page.getByText('taken').waitFor()
await page.getByText(/^answers/).waitFor()
await picture('send')
const list = ['Address;Title;Network;utm_campaign;Slug']
for (const [i, topic] of ['Meteors', 'Moon', 'Mirrors', 'Mars', 'Nebulae', 'Orbits', 'Eclipses', 'Comets'].entries())
  list.push(`https://www.northmoor.localhost/talks/${topic.toLowerCase()};${topic} for beginners;${i % 2 ? 'Perch' : 'Guildhall'};Winter members;${topic.toLowerCase()}-talk`)
list[4] = 'ftp://www.northmoor.localhost/mars;Mars for beginners;Perch;Winter members;mars-talk'
list[7] = 'https://www.northmoor.localhost/talks/eclipses;Eclipses for beginners;Guildhall;Spring talks;eclipses-talk'
await page.goto(`${address}/send/many`)
await page.getByLabel('CSV or XLSX file').setInputFiles({ name: 'winter talks.csv', mimeType: 'text/csv', buffer: Buffer.from(list.join('\n')) })
await page.getByText('can’t be made').waitFor()
await picture('many')
await page.goto(`${address}/links?query=hundred+meteors`)
await page.getByRole('heading', { level: 2 }).getByRole('link').first().click()
await page.getByRole('button', { name: 'Copy all' }).waitFor()
await picture('hand-out')
await page.goto(`${address}/links`)
await page.getByRole('link', { name: /geminids-perch / }).click()
await picture('links')
await page.goto(`${address}/compare?campaign=winter-members`)
await page.getByRole('region', { name: 'Course' }).waitFor()
await picture('compare')
await page.emulateMedia({ colorScheme: 'dark' })
await picture('compare-dark')
await page.emulateMedia({ colorScheme: 'light' })
await page.goto(`${address}/compare?period=this-quarter&across=campaign`)
await page.getByRole('region', { name: 'Weekdays and hours' }).getByRole('row').last().waitFor()
await page.getByRole('region', { name: 'Crossed with' }).getByRole('row').last().waitFor()
await page.getByRole('region', { name: 'Crossed with' }).evaluate((section) => section.scrollIntoView({ block: 'start' }))
await page.evaluate(() => window.scrollBy(0, -90))
await picture('crossed')
await page.goto(`${address}/set-up`)
await page.getByRole('table').waitFor()
await picture('set-up')
await page.goto(`${address}/set-up?part=domains`)
await page.getByText('What to do').waitFor()
await picture('domains')
await page.goto(`${address}/set-up?part=referrers`)
await page.getByRole('cell', { name: 'perch.localhost' }).waitFor()
await picture('referrers')
await page.goto(`${address}/set-up?part=vocabulary`)
await page.getByText('Looks like').waitFor()
await picture('vocabulary')
await browser.close()
