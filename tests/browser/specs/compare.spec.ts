import { expect, test } from '@playwright/test'
import { signIn } from './people'

test('the question is asked in the sentence, held in the address, and taken back by the browser', async ({ page }) => {
  await signIn(page)
  await page.getByRole('link', { name: 'Compare' }).click()
  await expect(page.getByText(/leads with|too close to call/).first()).toBeVisible()
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

test('the demo has a comparison that is too close to call', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare?campaign=school-visits&period=last-90')
  await expect(page.getByText('Hearthside and Guildhall are too close to call: 455 clicks against 448.')).toBeVisible()
  await expect(page.getByText('too close to call').nth(1)).toBeVisible()
})

test('an address that makes no sense asks the usual question', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare?by=mood&period=5&from=yesterday')
  await expect(page.getByRole('button', { name: 'Compare by: channel' })).toBeVisible()
})
