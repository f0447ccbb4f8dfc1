import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import { signIn, standins, unique } from './people'

const day = (daysAgo: number) => new Date(Date.now() - daysAgo * 86_400_000).toISOString().slice(0, 10)
const upTo = (n: number) => Math.floor(n * Math.random())

/** Days that no other test has kept a view of, which end while the winter campaign is running. */
const someDays = () => `from=${day(300 + upTo(90))}&to=${day(upTo(15))}`

/** The answer sentence, whatever it says of these days. */
const answerOn = (page: Page) => page.getByRole('status').filter({ hasText: /brought the most|are level at/ })

test('a view is kept, pinned, shared with somebody without an account, and taken back', async ({ page, browser }) => {
  await signIn(page)
  const name = unique('Winter by channel')
  await page.goto(`/compare?campaign=winter-members&${someDays()}&compare=none&course=stacked`)
  await page.getByRole('button', { name: 'Save view' }).click()
  await page.getByLabel('View name').fill(name)
  await page.keyboard.press('Enter')
  const pin = page.getByRole('navigation', { name: 'Saved views' }).getByRole('link', { name })
  await expect(pin).toHaveAttribute('aria-current', 'page')
  const answer = await answerOn(page).textContent()

  await page.goto('/compare')
  await pin.click()
  await expect(page).toHaveURL(/campaign=winter-members/)
  await expect(page).toHaveURL(/course=stacked/)
  await page.getByRole('button', { name: 'Share or edit this view' }).click()
  await page.getByLabel('Recipient').fill('The trustees')
  await page.getByRole('button', { name: 'Create link' }).click()
  const address = await page.getByText(/\/shared\/[0-9a-f]{48}/).textContent()

  const stranger = await (await browser.newContext()).newPage()
  await stranger.goto(address!)
  await expect(stranger.getByRole('heading', { level: 1, name })).toBeVisible()
  await expect(answerOn(stranger)).toHaveText(answer!)
  await expect(stranger.getByRole('region', { name: 'Lanes' }).getByRole('row', { name: /Guildhall/ })).toBeVisible()
  await expect(stranger.getByRole('link'), 'nothing leads into the workspace').toHaveCount(1)
  await expect(stranger.getByRole('link')).toHaveAttribute('href', '/how-cursus-counts')
  const { violations } = await new AxeBuilder({ page: stranger }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze()
  expect(violations.map((v) => `${v.id}: ${v.nodes[0]?.target.join(' ')}`)).toEqual([])
  await stranger.setViewportSize({ width: 390, height: 844 })
  expect(await stranger.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)).toBeLessThanOrEqual(0)

  await page.getByRole('button', { name: 'Revoke the link for The trustees' }).click()
  await expect(page.getByText('not opened yet')).toHaveCount(0)
  await expect(page.getByRole('button', { name: /Revoke/ })).toHaveCount(0)
  await stranger.reload()
  await expect(stranger.getByText('This link doesn’t work')).toBeVisible()
  await stranger.context().close()
  await page.getByRole('button', { name: 'Delete view' }).click()
  await expect(pin).toHaveCount(0)
})

test('a name that is taken is refused beside its field', async ({ page }) => {
  await signIn(page)
  const name = unique('By medium')
  const days = someDays()
  for (const address of [`/compare?${days}&by=medium`, `/compare?${days}&by=source`]) {
    await page.goto(address)
    await page.getByRole('button', { name: 'Save view' }).click()
    await page.getByLabel('View name').fill(name)
    await page.getByRole('button', { name: 'Save', exact: true }).click()
    await expect(page.getByLabel('View name')).toHaveCount(address.endsWith('medium') ? 0 : 1)
  }
  await expect(page.getByText(`There is already a view called “${name}”.`)).toBeVisible()
})

test('the digest is read on its page and arrives by e-mail', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare')
  await page.getByRole('link', { name: 'Weekly digest' }).click()
  await expect(page.getByRole('region', { name: 'What led' }).getByText(/brought the most/)).toBeVisible()
  const mail = page.getByRole('switch', { name: /Monday mornings/ })
  const wanted = await mail.isChecked()
  const kept = page.waitForResponse((response) => response.url().endsWith('/reports/digest/mail') && response.ok())
  await mail.click()
  await kept
  await page.reload()
  await expect(mail).toBeChecked({ checked: !wanted })
  await page.getByRole('button', { name: /Send me last week/ }).click()
  await expect(page.getByText('is on its way')).toBeVisible()
  const heading = await page.getByRole('heading', { level: 1 }).textContent()
  await page.getByRole('link', { name: 'The week before', exact: true }).click()
  await expect(page.getByRole('heading', { level: 1 })).not.toHaveText(heading!)

  await page.goto(`http://mailbox.localhost:${standins}/`)
  await page.getByRole('link', { name: /Northmoor Observatory: .* led with/ }).first().click()
  await expect(page.frameLocator('iframe').getByRole('heading', { name: 'What led' })).toBeVisible()
})
