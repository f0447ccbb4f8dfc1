import { expect, test, type APIRequestContext } from '@playwright/test'
import { address, chooseCampaign, signIn, standins, unique } from './people'

const port = new URL(address).port

/** Follows a short link as a visitor whom nobody knows. */
const visit = (request: APIRequestContext, slug: string) =>
  request.get(`http://127.0.0.1:${port}/${slug}`, {
    headers: { Host: 'nmoor.localhost' },
    maxRedirects: 0,
  })

const inDays = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10)

test('a post is sent ahead of its time, opens its links when it is due, and ends them when it is over', async ({ page, request }) => {
  await signIn(page)
  const slug = unique('sale').replace(' ', '-')
  await page.getByLabel('Destination').fill(`www.northmoor.localhost:${standins}/sale`)
  await chooseCampaign(page, 'winter')
  await page.getByLabel('Slug for Guildhall').fill(slug)
  await page.getByRole('button', { name: 'Options', exact: true }).click()
  await page.getByLabel('Opens on for all rows').fill(inDays(2))
  await page.getByLabel('Opens at for all rows').fill('09:00')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: /^Save (one|\d)/ }).click()
  await expect(page.getByText(/opens .*, 09:00/).first()).toBeVisible()
  const early = await visit(request, slug)
  expect(early.status()).toBe(404)
  expect(await early.text()).toContain('This link isn’t open yet')

  await page.goto(`/links?view=flat&query=${slug}&state=scheduled`)
  await page.getByRole('link', { name: new RegExp(slug) }).click()
  const sheet = page.getByRole('complementary', { name: 'Link' })
  await expect(sheet.getByText(/^Opens .*, 09:00$/)).toBeVisible()

  await sheet.getByRole('button', { name: 'Change', exact: true }).click()
  await sheet.getByLabel('Ends on').fill(inDays(1))
  await sheet.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(sheet.getByText('The link would end before it opens. Choose a later end.')).toBeVisible()
  await sheet.getByLabel('Opens on').fill(inDays(-1))
  await sheet.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(sheet.getByText(/^Opens .*, 09:00$/)).toBeHidden()
  await expect.poll(async () => (await visit(request, slug)).headers().location).toContain('/sale?')
  await expect(page.getByText('0 links', { exact: true })).toBeVisible()

  await sheet.getByRole('button', { name: 'Change', exact: true }).click()
  await sheet.getByLabel('Opens on').fill('')
  await sheet.getByLabel('Ends on').fill(inDays(-2))
  await sheet.getByLabel('Fallback').fill(`www.northmoor.localhost:${standins}/offers`)
  await sheet.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(sheet.getByText(/^Ended /)).toBeVisible()
  await expect.poll(async () => (await visit(request, slug)).headers().location).toContain('/offers?utm_source=guildhall')
  await sheet.getByRole('tab', { name: 'History' }).click()
  await expect(sheet.getByText(/^Ends: .* → /).first()).toBeVisible()
})

test('links are picked and given an end with the keyboard alone, and always active again', async ({ page, request }) => {
  await signIn(page)
  const slug = unique('raffle').replace(' ', '-')
  await page.getByLabel('Destination').fill(`www.northmoor.localhost:${standins}/raffle`)
  await chooseCampaign(page, 'winter')
  await page.getByLabel('Slug for Guildhall').fill(slug)
  await page.getByRole('button', { name: /^Save (one|\d)/ }).click()
  await expect(page.getByRole('link', { name: new RegExp(slug) }).first()).toBeVisible()

  await page.goto(`/links?view=flat&query=${slug}`)
  const row = page.locator('[data-link-row]').first()
  const openTime = async () => {
    await row.focus()
    await page.keyboard.press('x')
    await page.keyboard.press('a')
    await page.getByRole('button', { name: 'Time', exact: true }).focus()
    await page.keyboard.press('Enter')
    await expect(page.getByLabel('Opens on')).toBeFocused()
  }
  await openTime()
  await page.getByLabel('Ends on').focus()
  await page.keyboard.type('01012026')
  await page.getByRole('button', { name: 'Set', exact: true }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('row', { name: new RegExp(slug) })).toContainText('ended')
  expect((await visit(request, slug)).status()).toBe(410)

  await openTime()
  await page.getByRole('button', { name: 'Always active' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('row', { name: new RegExp(slug) })).toContainText('never clicked')
  expect((await visit(request, slug)).status()).toBe(302)
})
