import { connect } from 'node:net'
import { expect, test, type Page } from '@playwright/test'
import { address as application, chooseCampaign, signIn, standins, stranger, tick, unique } from './people'

/** Sends a post to Perch and Guildhall and ends at its hand-out; returns its short addresses by channel. */
async function send(page: Page) {
  await page.getByLabel('Destination').fill(`www.northmoor.localhost:${standins}/events/geminids-night`)
  await page.getByLabel('Title').fill(unique('Watching clicks arrive'))
  await chooseCampaign(page, 'winter members')
  await tick(page, 'Perch', 'Guildhall')
  await page.keyboard.press('Control+Enter')
  await expect(page.getByRole('button', { name: 'Copy all' })).toBeVisible()
  const row = (channel: string) => page.getByRole('listitem').filter({ has: page.getByText(channel, { exact: true }) })
  return { row, address: async (channel: string) => `http://${await row(channel).getByRole('link').first().innerText()}` }
}

test('a click arrives in the hand-out without a reload, and a test-open does too, not counted', async ({ page, browser, context }) => {
  await signIn(page)
  const { row, address } = await send(page)
  const pulse = page.getByRole('link', { name: /by people in the last 10 minutes/ })
  const before = Number((await pulse.getByText(/^\d+$/).innerText()).replace(/\D/g, ''))

  const visitor = await stranger(browser)
  await (await visitor.newPage()).goto(await address('Perch'))
  await expect(row('Perch').getByRole('status')).toContainText('+1 just now · computer')
  await expect(row('Perch').getByText('1 click', { exact: true })).toBeVisible()
  await expect(pulse).toContainText(String(before + 1))
  await visitor.close()

  const opened = context.waitForEvent('page')
  await row('Guildhall').getByRole('link', { name: /Open without counting/ }).click()
  await (await opened).waitForLoadState()
  await expect(row('Guildhall').getByRole('status')).toHaveText('Your visit, not counted')
  await expect(row('Guildhall').getByText('0 clicks', { exact: true })).toBeVisible()
})

test('a link’s sheet shows a click as it arrives', async ({ page, browser }) => {
  await signIn(page)
  const { row, address } = await send(page)
  const short = await address('Perch')
  await row('Perch').getByRole('link').first().click()
  const sheet = page.getByRole('complementary', { name: 'Link' })
  await expect(sheet.getByRole('heading', { level: 2 })).toBeVisible()
  const visitor = await stranger(browser)
  await (await visitor.newPage()).goto(short)
  await expect(sheet.getByRole('status').filter({ hasText: '+1 just now' })).toBeVisible()
  await visitor.close()
})

test('who knows better says to which channel a site belongs, by keyboard alone', async ({ page }) => {
  await signIn(page)
  await page.goto('/settings/referrers')
  await expect(page.getByRole('cell', { name: 'perch.localhost' })).toBeVisible()
  const site = `${unique('forum').replace(' ', '-')}.example`
  await page.getByRole('textbox', { name: 'Site' }).focus()
  await page.keyboard.type(site)
  await page.keyboard.press('Tab')
  // A list that is still opening may put its mark back to what was chosen before; then a person chooses again.
  await expect(async () => {
    await page.keyboard.press('ArrowDown')
    await expect(page.getByRole('option', { name: 'Our own site' })).toHaveAttribute('data-combobox-selected')
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('combobox', { name: 'Belongs to' })).toHaveValue('Guildhall', { timeout: 1000 })
  }).toPass()
  await page.getByRole('button', { name: 'Assign', exact: true }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Site' })).toHaveValue('')
  const rules = (await (await page.request.get('/api/v1/referrer-rules?limit=500')).json()) as { items: { host: string; channel: string }[] }
  expect(rules.items.find((rule) => rule.host === site)?.channel).toBe('guildhall')

  await page.goto('/compare?by=network')
  await expect(page.getByText('Guildhall', { exact: true }).first()).toBeVisible()
  await page.goto('/compare?by=elsewhere')
  await expect(page.getByText('Own channel').first()).toBeVisible()
  await expect(page.getByText('Shared elsewhere').first()).toBeVisible()
})

test('office networks are read one a line and a slip is explained', async ({ page }) => {
  await signIn(page)
  await page.goto('/settings/counting')
  const networks = page.getByLabel('Office networks')
  await networks.fill('10.1\n192.0.2.0/24')
  await page.getByRole('button', { name: 'Save networks' }).click()
  await expect(page.getByText('“10.1” isn’t a network address.')).toBeVisible()
  await networks.fill('192.0.2.77/24')
  await page.getByRole('button', { name: 'Save networks' }).click()
  await expect(networks).toHaveValue('192.0.2.0/24')
  await networks.fill('')
  await page.getByRole('button', { name: 'Save networks' }).click()
  await expect(page.getByRole('button', { name: 'Save networks' })).toHaveCount(0)
})

test('deleting old clicks is asked for once more, with the keyboard too, and can be left alone', async ({ page }) => {
  await signIn(page)
  await page.goto('/settings/counting')
  const kept = page.getByRole('combobox', { name: 'Keep individual clicks' })
  await expect(kept).toHaveValue('Forever')
  await kept.focus()
  await page.keyboard.press('Enter')
  const wanted = page.getByRole('option', { name: '26 months' })
  await expect(wanted).toBeVisible()
  await expect(async () => {
    await page.keyboard.press('ArrowDown')
    await expect(wanted).toHaveAttribute('data-combobox-selected', 'true', { timeout: 300 })
  }).toPass()
  await page.keyboard.press('Enter')
  const asks = page.getByRole('alertdialog', { name: 'Delete individual clicks older than 26 months?' })
  await expect(asks.getByRole('button', { name: 'Keep them' })).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(asks).toHaveCount(0)
  await expect(kept).toHaveValue('Forever')

  await kept.click()
  await page.getByRole('option', { name: '38 months' }).click()
  await page.getByRole('button', { name: 'Delete older clicks' }).click()
  await expect(page.getByRole('alertdialog')).toHaveCount(0)
  await page.reload()
  await expect(kept).toHaveValue('38 months')
  await kept.click()
  const saved = page.waitForResponse((r) => r.url().endsWith('/api/v1/workspace') && r.request().method() === 'PATCH')
  await page.getByRole('option', { name: 'Forever' }).click()
  await saved
  await page.reload()
  await expect(kept).toHaveValue('Forever')
})

test('a visitor whose browser writes letters of its language into headers is led on', async () => {
  const answer = await new Promise<string>((resolve, reject) => {
    const socket = connect(Number(new URL(application).port), '127.0.0.1', () => {
      const head = 'GET /geminids-perch HTTP/1.1\r\nHost: nmoor.localhost\r\nUser-Agent: Mozilla/5.0 (Käse; \xff\xfe)\r\nReferer: https://perch.localhost/ä\r\nConnection: close\r\n\r\n'
      socket.write(Buffer.from(head, 'latin1'))
    })
    let text = ''
    socket.on('data', (data) => (text += data.toString('latin1')))
    socket.on('end', () => resolve(text))
    socket.on('error', reject)
  })
  expect(answer.split('\r\n')[0]).toBe('HTTP/1.1 302 Found')
})

for (const [what, answer, words] of [
  ['the database is away', { status: 503, json: { database: false, lostClicks: 0, damagedClicks: 0 } }, 'The database isn’t responding. Your links still work'],
  ['clicks are lost', { json: { database: true, lostClicks: 1204, damagedClicks: 0 } }, '1,204 clicks were redirected but not counted'],
  ['clicks are damaged', { json: { database: true, lostClicks: 0, damagedClicks: 1 } }, '1 click can’t be read'],
] as const)
  test(`a banner tells that ${what}`, async ({ page }) => {
    await page.route('**/readyz', (route) => route.fulfill({ ...answer }))
    await signIn(page)
    await expect(page.getByRole('alert').filter({ hasText: words })).toBeVisible()
  })

test('a link’s sheet tells in short where, with what and when it was clicked, and asks on', async ({ page }) => {
  await signIn(page)
  await page.goto('/links?view=flat&query=saturn%20refractor&sort=clicks')
  await page.locator('[data-link-row]').first().click()
  const sheet = page.getByRole('complementary', { name: 'Link' })
  await sheet.getByRole('tab', { name: 'Clicks' }).click()
  await expect(sheet.getByText(/United Kingdom [\d.]+%/)).toBeVisible()
  await expect(sheet.getByText(/Phone [\d.]+%/)).toBeVisible()
  await expect(sheet.getByText(/^Most came on \w+days from \d\d:00/)).toBeVisible()
  await sheet.getByRole('link', { name: 'Open in Compare' }).click()
  await expect(page.getByRole('button', { name: /^link: \S+\/\S+\. Remove this filter$/ })).toBeVisible()
  await expect(page).toHaveURL(/by=network/)
})
