import { expect, test } from '@playwright/test'
import { signIn, standins, unique } from './people'

test('a link is found by words, opens beside the list at its own address, and the way back works', async ({ page }) => {
  await signIn(page)
  await page.getByRole('link', { name: 'Links', exact: true }).click()
  await page.getByLabel('Search links').fill('hundred meteors')
  await expect(page.getByText('7 links')).toBeVisible()
  await page.getByRole('link', { name: /geminids-perch / }).click()
  await expect(page).toHaveURL(/links\/[0-9a-f-]{36}\?query=hundred/)
  const sheet = page.getByRole('complementary', { name: 'Link' })
  await expect(sheet.getByRole('heading', { name: 'Geminids night: dinner under a hundred meteors' })).toBeVisible()
  await page.reload()
  await expect(sheet).toContainText('perch / social / winter-members')
  await page.goBack()
  await expect(sheet).toBeHidden()
})

test('rows are walked by arrow keys, Enter opens and Escape closes', async ({ page }) => {
  await signIn(page)
  await page.goto('/links')
  const rows = page.locator('[data-link-row]')
  await rows.first().focus()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('ArrowDown')
  await expect(rows.nth(2)).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('complementary', { name: 'Link' })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page).toHaveURL(/\/links$/)
})

test('a changed destination is where the next visit leads; a deleted link has ended', async ({ page, request }) => {
  await signIn(page)
  const slug = unique('moved').replace(' ', '-')
  await page.getByLabel('Destination').fill(`www.northmoor.localhost:${standins}/old`)
  await page.getByLabel('Campaign', { exact: true }).fill('winter')
  await page.keyboard.press('Enter')
  await page.getByLabel('Slug for Guildhall').fill(slug)
  await page.getByRole('button', { name: /^Save (one|\d)/ }).click()
  await page.getByRole('link', { name: new RegExp(slug) }).first().click()

  await page.getByRole('button', { name: 'Change', exact: true }).click()
  await page.getByLabel('Destination').fill(`www.northmoor.localhost:${standins}/new`)
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText(/\/new\?utm_source=guildhall/)).toBeVisible()
  const port = new URL(process.env.CURSUS_ADDRESS!).port
  const visit = () => request.get(`http://127.0.0.1:${port}/${slug}`, { headers: { Host: 'nmoor.localhost' }, maxRedirects: 0 })
  expect((await visit()).headers().location).toContain('/new?')

  await page.getByRole('button', { name: 'More actions' }).click()
  await page.getByRole('menuitem', { name: 'Delete' }).click()
  await expect(page.getByRole('button', { name: 'Delete link' })).toBeDisabled()
  await page.getByLabel(/^To confirm, type the slug/).fill(slug)
  await page.getByRole('button', { name: 'Delete link' }).click()
  await expect(page).toHaveURL(/\/links$/)
  expect((await visit()).status()).toBe(410)
})

test('the address bar finds by / and opens what was chosen', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare')
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await page.keyboard.press('/')
  await page.keyboard.type('red lamps')
  await page.getByRole('option', { name: 'Why we light only red lamps · Winter members' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Why we light only red lamps' })).toBeVisible()
})
