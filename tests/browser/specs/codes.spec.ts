import { readFileSync } from 'node:fs'
import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import { address, signIn, stranger, unique } from './people'

/** The first link of the demo's posters, with the designer open beside the list. */
async function openDesigner(page: Page, campaign = 'telescope-raffle') {
  await page.goto(`/links?channel=poster&campaign=${campaign}`)
  const row = page.locator('[data-link-row]').first()
  await row.focus()
  await page.keyboard.press('q')
  const sheet = page.getByRole('dialog', { name: 'QR code' })
  await expect(sheet.getByRole('img', { name: /QR code of http/ })).toBeVisible()
  return sheet
}

const linkOf = (page: Page) => new URL(page.url()).searchParams.get('qr')!

test('a code is one key away, is read back in the browser, and the way back closes it', async ({ page }) => {
  await signIn(page)
  const sheet = await openDesigner(page)
  await expect(sheet.getByText(/Scans, with \d+% to spare|Would not scan reliably/)).toBeVisible()
  expect(linkOf(page)).toMatch(/^[0-9a-f-]{36}$/)
  await page.goBack()
  await expect(sheet).toBeHidden()
})

test('a look that would not scan is told with its rule, mended by one key, and saved under a name', async ({ page }) => {
  await signIn(page)
  const sheet = await openDesigner(page)
  await sheet.getByLabel('Style', { exact: true }).click()
  await page.getByRole('option', { name: 'Night sky' }).click()
  await sheet.getByLabel('Foreground', { exact: true }).fill('#f0c8d4')
  await expect(sheet.getByText('Would not scan reliably')).toBeVisible()
  await expect(sheet.getByText(/The foreground and the background are too similar/)).toBeVisible()
  await expect(sheet.getByRole('button', { name: 'Save as new' })).toBeDisabled()
  await expect(sheet.getByRole('button', { name: 'Download SVG' })).toBeDisabled()
  await sheet.getByRole('heading', { name: 'Codes of this link' }).click()
  await page.keyboard.press('f')
  await expect(sheet.getByText(/Scans, with \d+% to spare/)).toBeVisible()
  const name = unique('Rose')
  await sheet.getByRole('button', { name: 'Save as new' }).click()
  await sheet.getByLabel('Style name').fill(name)
  await page.keyboard.press('Enter')
  await expect(sheet.getByRole('button', { name: 'Apply to this link' })).toBeVisible()
  await sheet.getByRole('button', { name: 'Apply to this link' }).click()
  await expect(sheet.getByRole('button', { name: 'Apply to this link' })).toBeHidden()
  const download = page.waitForEvent('download')
  await sheet.getByRole('button', { name: 'Download SVG' }).click()
  expect(readFileSync(await (await download).path(), 'utf8')).toContain('<title>QR code of http')
})

test('by keyboard alone: a code for another place is made, scanned by somebody, and compared', async ({ page, browser }) => {
  await signIn(page)
  const sheet = await openDesigner(page, 'perseid-nights')
  const place = unique('Bus stop')
  await sheet.getByLabel('Another code').focus()
  await page.keyboard.type(place)
  await page.keyboard.press('Enter')
  await expect(sheet.getByRole('radio', { name: place })).toBeChecked()
  await expect(sheet.getByRole('img', { name: /QR code of/ })).not.toHaveAttribute('alt', /\/1$/)
  const shown = (await sheet.getByRole('img', { name: /QR code of/ }).getAttribute('alt'))!.replace('QR code of ', '')
  const visitor = await stranger(browser)
  await (await visitor.newPage()).goto(shown.toUpperCase().replace('HTTP:', 'http:'))
  await visitor.close()
  await expect
    .poll(
      async () => {
        const codes = (await (await page.request.get(`/api/v1/links/${linkOf(page)}/codes`)).json()) as { codes: Array<{ name: string; scans: number }> }
        return codes.codes.find((c) => c.name === place)?.scans
      },
      { timeout: 20_000 },
    )
    .toBe(1)
  await sheet.getByRole('link', { name: 'Compare codes' }).press('Enter')
  await expect(page.getByRole('heading', { level: 1 })).toContainText('QR code')
  await expect(page.getByText(place).first()).toBeVisible()
})

test('the codes of a post are taken away as files and as labels', async ({ page }) => {
  await signIn(page)
  await page.goto('/links?channel=poster')
  const post = page.getByRole('heading', { level: 2 }).first().getByRole('link')
  const title = (await post.textContent())!
  await post.click()
  // The list has a button of the same name, which goes when the post is there.
  await expect(page.getByRole('heading', { level: 1, name: title })).toBeVisible()
  await page.getByRole('button', { name: 'QR codes', exact: true }).click()
  for (const [button, file] of [
    ['Download ZIP', 'QR-codes.zip'],
    ['Download labels', 'QR-labels.pdf'],
  ] as const) {
    const download = page.waitForEvent('download')
    await page.getByRole('button', { name: button }).click()
    expect((await download).suggestedFilename()).toBe(file)
  }
})

test('a viewer sees and takes a code away, and changes nothing; on a phone it fits', async ({ page }) => {
  await signIn(page, 'Priya Lindqvist')
  await page.setViewportSize({ width: 390, height: 844 })
  const sheet = await openDesigner(page)
  await expect(sheet.getByRole('button', { name: 'Download PNG' })).toBeVisible()
  await expect(sheet.getByRole('button', { name: 'Save as new' })).toHaveCount(0)
  await expect(sheet.getByRole('button', { name: 'Upload PNG or SVG' })).toHaveCount(0)
  await expect(sheet.getByLabel('Another code')).toHaveCount(0)
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
})

test('a server that does not answer is said, and what was chosen stays', async ({ page }) => {
  await signIn(page)
  const sheet = await openDesigner(page)
  await page.route('**/api/v1/codes/**', (route) => route.abort())
  await sheet.getByLabel('Foreground', { exact: true }).fill('#101820')
  await expect(sheet.getByText('No connection').first()).toBeVisible()
  await expect(sheet.getByLabel('Foreground', { exact: true })).toHaveValue('#101820')
})

for (const colorScheme of ['light', 'dark'] as const)
  test(`the designer is accessible in the ${colorScheme} scheme`, async ({ page }) => {
    await signIn(page)
    await page.emulateMedia({ colorScheme })
    const sheet = await openDesigner(page)
    await expect(sheet.getByText(/Scans, with \d+% to spare|Would not scan reliably/)).toBeVisible()
    expect((await new AxeBuilder({ page }).include('[role=dialog]').analyze()).violations).toEqual([])
  })

test('a code leads to the destination without its number', async ({ request, page }) => {
  await signIn(page)
  const { items } = (await (await page.request.get('/api/v1/links?channel=poster&limit=1')).json()) as { items: Array<{ shortUrl: string; finalUrl: string }> }
  const answer = await request.get(`${items[0]!.shortUrl}/1`.replace(/^http:\/\/[^/:]+/, address.replace(/:\d+$/, '')), {
    headers: { Host: new URL(items[0]!.shortUrl).host },
    maxRedirects: 0,
  })
  expect(answer.headers().location).toBe(items[0]!.finalUrl)
})
