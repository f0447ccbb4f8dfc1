import AxeBuilder from '@axe-core/playwright'
import { expect, test, type APIRequestContext } from '@playwright/test'
import { call, signIn, stranger, unique } from './people'

const phone = 'Mozilla/5.0 (Linux; Android 15; Mobile) AppleWebKit/537.36 Person/7'
const computer = 'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 Person/7'

/** Where somebody of the public is led. */
async function led(request: APIRequestContext, slug: string, agent: string) {
  const port = new URL(process.env.CURSUS_ADDRESS!).port
  const headers = { Host: 'nmoor.localhost', 'User-Agent': agent }
  return (await request.get(`http://127.0.0.1:${port}/${slug}`, { maxRedirects: 0, headers })).headers().location
}

test('phones are led elsewhere by a rule that is added, switched off and removed in the sheet, by keyboard alone', async ({ page, browser }) => {
  await signIn(page)
  const link = await call<{ id: string; slug: string }>(page, 'POST', 'links', {
    destination: 'https://northmoor.example/evening',
    title: unique('Evening'),
    campaign: 'winter-members',
    channel: 'perch',
  })
  const visitor = (await stranger(browser)).request
  await page.goto(`/links/${link.id}`)
  const leads = page.getByRole('region', { name: 'Where it leads' })
  await leads.getByRole('button', { name: 'Add a rule' }).focus()
  await page.keyboard.press('Enter')
  const form = leads.getByRole('form', { name: 'Rule' })
  await expect(form.getByLabel('On', { exact: true })).toBeFocused()
  await page.keyboard.type('Pho')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await form.getByLabel('Address of page 1').focus()
  await page.keyboard.type('https://northmoor.example/evening/app')
  await page.keyboard.press('Enter')
  await expect(leads.getByRole('listitem').first()).toContainText('on a phone')
  expect(await led(visitor, link.slug, phone)).toContain('/evening/app?utm_source=perch')
  expect(await led(visitor, link.slug, computer)).toContain('/evening?utm_source=perch')

  await leads.getByRole('button', { name: 'Actions for rule 1, on a phone' }).focus()
  await page.keyboard.press('Enter')
  await page.getByRole('menuitem', { name: 'Switch off' }).focus()
  await page.keyboard.press('Enter')
  await expect(leads.getByText('off', { exact: true })).toBeVisible()
  expect(await led(visitor, link.slug, phone)).toContain('/evening?')

  await page.getByRole('tab', { name: 'History' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByText('Rules:').first()).toBeVisible()
})

test('a rule without a condition is refused beside its fields, and a split is shared anew; both fit a phone and are accessible', async ({ page }) => {
  await signIn(page)
  const link = await call<{ id: string }>(page, 'POST', 'links', { destination: 'https://northmoor.example/join', title: unique('Join') })
  await page.goto(`/links/${link.id}`)
  const leads = page.getByRole('region', { name: 'Where it leads' })
  await leads.getByRole('button', { name: 'Add a rule' }).click()
  await leads.getByLabel('Address of page 1').fill('https://northmoor.example/join/now')
  await leads.getByRole('button', { name: 'Save' }).click()
  await expect(leads.getByRole('alert')).toContainText('no condition')
  await leads.getByRole('button', { name: 'Cancel' }).click()

  await leads.getByRole('button', { name: 'Split over several pages' }).click()
  await leads.getByLabel('Address of page 1').fill('https://northmoor.example/members')
  await leads.getByLabel('Address of page 2').fill('https://northmoor.example/join')
  await leads.getByRole('button', { name: 'Add a page' }).click()
  await expect(leads.getByLabel('Share of page 3', { exact: true })).toHaveValue('33%')
  await leads.getByLabel('Address of page 3').fill('https://northmoor.example/gift')
  await page.setViewportSize({ width: 390, height: 844 })
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme })
    const { violations } = await new AxeBuilder({ page }).analyze()
    expect(violations.filter((v) => v.impact === 'serious' || v.impact === 'critical').map((v) => v.id)).toEqual([])
  }
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390)
  await leads.getByRole('button', { name: 'Save' }).click()
  await expect(leads.getByRole('listitem').last()).toContainText('34%northmoor.example/members')
})
