import { readFile } from 'node:fs/promises'
import AxeBuilder from '@axe-core/playwright'
import { expect, test } from '@playwright/test'
import { signIn } from './people'

const daysAgo = (days: number) => new Date(Date.now() - 86_400_000 * days).toISOString().slice(0, 10)

test('the question is asked in the sentence, held in the address, and taken back by the browser', async ({ page }) => {
  await signIn(page)
  await page.getByRole('link', { name: 'Compare' }).click()
  await expect(page.getByText(/brought the most/).first()).toBeVisible()
  await page.getByRole('button', { name: 'Compare by: channel' }).click()
  await page.getByRole('menuitem', { name: 'medium', exact: true }).click()
  await page.getByRole('button', { name: 'Period: the last 28 days' }).click()
  await page.getByRole('button', { name: 'the last 90 days' }).click()
  await expect(page).toHaveURL(/by=medium/)
  await expect(page).toHaveURL(/period=last-90/)
  await expect(page.getByRole('region', { name: 'Lanes' })).toContainText('social')
  await page.goBack()
  await expect(page.getByRole('button', { name: 'Period: the last 28 days' })).toBeVisible()
})

test('any range of days can be asked for', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare?from=2026-01-05&to=2026-01-06')
  await expect(page.getByRole('button', { name: 'Period: 5 Jan 2026 to 6 Jan 2026' })).toBeVisible()
  await page.getByRole('button', { name: /^Period/ }).click()
  await page.getByRole('button', { name: '12 January 2026' }).click()
  await page.getByRole('button', { name: '14 January 2026' }).click()
  await expect(page).toHaveURL(/from=2026-01-12&to=2026-01-14/)
})

test('a figure opens what it is made of', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare?period=last-90')
  const lanes = page.getByRole('region', { name: 'Lanes' })
  const guildhall = lanes.getByRole('row', { name: /Guildhall/ }).getByRole('link')
  const clicks = await guildhall.textContent()
  await guildhall.click()
  await expect(page).toHaveURL(/by=post/)
  await expect(page.getByText(`${clicks} clicks by about`)).toBeVisible()
})

test('the demo has a lead that is clear, one too close to call, one from too few posts, and one by posting more often', async ({ page }) => {
  await signIn(page)
  for (const [asked, said] of [
    ['', /^Guildhall brought the most: .* clear: with posts like these it would come out ahead again/],
    ['campaign=school-visits&period=last-90', /Guildhall and Hearthside are too close to call: with posts like these either could come out ahead/],
    ['campaign=telescope-raffle', /Too few posts to say whether this would happen again/],
    [`campaign=perseid-nights&from=${daysAgo(200)}&to=${daysAgo(0)}`, /^Guildhall brought the most: .* Per post, Night Letter brings more: .*, which is clear/],
  ] as const) {
    await page.goto(`/compare?${asked}`)
    await expect(page.getByRole('status').filter({ hasText: said })).toBeVisible()
  }
})

test('clicks per post are asked for in the sentence, and how that is decided is one step away', async ({ page }) => {
  await signIn(page)
  await page.goto(`/compare?campaign=perseid-nights&from=${daysAgo(200)}&to=${daysAgo(0)}`)
  await page.getByRole('button', { name: 'Count: clicks' }).click()
  await page.getByRole('menuitem', { name: 'clicks per post' }).click()
  await expect(page).toHaveURL(/per=post/)
  await expect(page.getByText(/^Night Letter brought the most per post/)).toBeVisible()
  await expect(page.getByRole('region', { name: 'Lanes' }).getByRole('row').nth(1)).toContainText('Night Letter')
  await page.getByRole('link', { name: 'How Cursus counts and compares' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'How Cursus counts and compares' })).toBeVisible()
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([])
})

test('an address that makes no sense asks the usual question', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare?by=mood&period=5&from=yesterday')
  await expect(page.getByRole('button', { name: 'Compare by: channel' })).toBeVisible()
})

test('a month is held against the same days of last year', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare')
  await page.getByRole('button', { name: /^Period/ }).click()
  await page.getByRole('button', { name: 'last month', exact: true }).click()
  await page.getByRole('button', { name: /^Compare with/ }).click()
  await page.getByRole('menuitem', { name: 'the same days of last year' }).click()
  await expect(page).toHaveURL(/period=last-month&compare=year/)
  await expect(page.getByRole('region', { name: 'Lanes' }).getByRole('row', { name: /Guildhall/ })).toBeVisible()
})

test('a second thing is set against the first, and both hold in the address', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare?campaign=winter-members')
  await page.getByRole('combobox', { name: 'Split channel by' }).click()
  await page.getByRole('option', { name: 'variant' }).click()
  await expect(page).toHaveURL(/across=content/)
  const crossed = page.getByRole('region', { name: 'Split by' })
  await expect(crossed.getByRole('columnheader', { name: 'picture' })).toBeVisible()
  const letter = crossed.getByRole('row', { name: /Night Letter/ }).getByRole('cell')
  const all = await page
    .getByRole('region', { name: 'Lanes' })
    .getByRole('row', { name: /Night Letter/ })
    .getByRole('link')
    .textContent()
  await expect(letter.last()).toHaveText(all!)
})

test('weekdays and hours say when people click', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare')
  const hours = page.getByRole('region', { name: 'Weekdays and hours' })
  await expect(hours.getByText(/Most came on \w+days from \d\d:00/)).toBeVisible()
  await expect(hours.getByRole('row')).toHaveCount(8)

  const download = page.waitForEvent('download')
  await hours.getByRole('button', { name: 'Export weekdays and hours' }).press('Enter')
  await page.getByRole('menuitem', { name: 'As CSV' }).press('Enter')
  const file = await download
  expect(file.suggestedFilename()).toMatch(/^clicks by weekday and hour .*\.csv$/)
  const friday = (await readFile(await file.path(), 'utf8')).split('\r\n').find((line) => line.includes('Friday'))!
  const cells = await hours.getByRole('row', { name: 'Friday' }).getByRole('cell').allTextContents()
  expect(friday.split(',').slice(2, -1)).toEqual(cells.map((clicks) => clicks.replace('·', '0')))
})

test('each thing that is drawn can be taken away as a picture', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare')
  const parts = ['weekdays and hours', 'where people are', 'post lifespan']
  for (const [format, signature] of [
    ['As PNG', '\x89PNG'],
    ['As SVG', '<?xml'],
  ] as const) {
    for (const part of parts) {
      const download = page.waitForEvent('download')
      await page.getByRole('button', { name: `Export ${part}` }).press('Enter')
      await page.getByRole('menuitem', { name: format }).press('Enter')
      const content = await readFile(await (await download).path(), 'latin1')
      expect(content.slice(0, signature.length), `${part} ${format}`).toBe(signature)
    }
  }
})

test('a map and a table beside it say where people are, and both open', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare?channel=perch')
  const countries = page.getByRole('region', { name: 'Countries' })
  const germany = countries.getByRole('row', { name: /Germany/ })
  const clicks = (await germany.getByRole('cell').first().textContent())!
  await expect(countries.locator('path title', { hasText: 'Germany' })).toHaveText(new RegExp(`^Germany: ${clicks},`))
  await germany.getByRole('link').press('Enter')
  await expect(page.getByRole('heading', { level: 1 })).toContainText('country Germany')
  await expect(page.getByText(`${clicks} clicks`).first()).toBeVisible()
  await expect(countries).toHaveCount(0)

  await page.goto('/compare?by=country')
  const map = page.getByRole('region', { name: 'Map' })
  await map.locator('path', { has: page.locator('title', { hasText: 'Germany' }) }).click()
  await expect(page).toHaveURL(/country=DE/)
  await expect(page.getByRole('region', { name: 'Lanes' })).toContainText('Perch')
})

test('the table is taken away as the screen shows it', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare?campaign=school-visits&period=last-90')
  const leader = page.getByRole('region', { name: 'Lanes' }).getByRole('row').nth(1)
  await expect(leader).toContainText('566')
  await page.getByRole('button', { name: 'Export', exact: true }).click()
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('menuitem', { name: 'Table as CSV' }).click()])
  expect(file.suggestedFilename()).toMatch(/^clicks by channel .* to .*\.csv$/)
  const lines = (await readFile(await file.path(), 'utf8')).split('\r\n')
  expect(lines[0]).toContain('channel,name,clicks')
  expect(lines[1]).toMatch(/^guildhall,Guildhall,566,/)
})

test('a file that can’t be fetched is told with its reason, and comes once the server is there again', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare?period=last-90')
  const take = async () => {
    await page.getByRole('button', { name: 'Export', exact: true }).click()
    await page.getByRole('menuitem', { name: 'One page as PDF' }).click()
  }
  await page.route('**/page.pdf*', (route) => route.abort())
  await take()
  await expect(page.getByRole('alert').filter({ hasText: 'Can’t reach Cursus.' })).toBeVisible()

  await page.unroute('**/page.pdf*')
  await page.route('**/page.pdf*', (route) =>
    route.fulfill({ status: 422, contentType: 'application/problem+json', body: '{"code":"invalid","detail":"Look.","errors":{"title":["A title has at most 120 characters."]}}' }),
  )
  await take()
  await expect(page.getByRole('alert').filter({ hasText: 'A title has at most 120 characters.' })).toBeVisible()

  await page.unroute('**/page.pdf*')
  const file = page.waitForEvent('download')
  await take()
  expect((await file).suggestedFilename()).toMatch(/^clicks by channel .* page\.pdf$/)
})
