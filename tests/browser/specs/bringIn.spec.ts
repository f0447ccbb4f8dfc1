import { expect, test, type Page } from '@playwright/test'
import { signIn, unique } from './people'

// The last column makes each test's lists unlike any that were read before.
const columns = (own: string) => `Short URL,Long URL,Name,Group,Labels,Created,Total clicks,Redirect type,${own}\n`

const choose = async (page: Page, label: string, option: string | RegExp) => {
  await page.getByRole('combobox', { name: label }).click()
  await page.getByRole('option', { name: option }).click()
}

test('links of another program move in: what they leave open is chosen, what is here is taken over, and all of it is taken back', async ({ page }) => {
  await signIn(page)
  const name = unique('walk').replace(' ', '-')
  await page.goto('/links')
  await page.getByRole('link', { name: 'Import links' }).click()
  const dropped = (...lines: string[]) => ({ name: 'old links.csv', mimeType: 'text/csv', buffer: Buffer.from(columns(name) + lines.join('')) })
  const old = (slug: string, day: string, clicks: string) =>
    `https://old.${name}.example/${slug},https://northmoor.example/${slug},Old ${slug},${name},walk,${day},"${clicks}",lasting\n`
  await page.getByLabel('CSV or XLSX file').setInputFiles(dropped(old(`${name}-1`, '3/4/2023', '1,204'), old(`${name}-2`, '5/6/2023', '77')))

  await expect(page.getByRole('status').filter({ hasText: 'Choose which number is the day' })).toBeVisible()
  await choose(page, '3/4/2026 means', 'the 3rd of April')
  await choose(page, 'Redirect “lasting” becomes', '301 permanent')
  await choose(page, `Move links from old.${name}.example to`, 'nmoor.localhost')
  await expect(page.getByRole('status', { name: 'Preview' })).toHaveText('2 new links · 1 new folder')
  await expect(page.getByRole('region', { name: '2 links' }).getByRole('row', { name: new RegExp(`Old ${name}-1`) })).toContainText(`created 3 Apr 2023 · 1,204 clicks imported · in ${name}`)

  const [report] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Full report' }).click()])
  expect(report.suggestedFilename()).toBe('old links report.csv')
  await page.getByRole('button', { name: 'Create 2 links' }).click()
  await expect(page.getByRole('heading', { name: '2 links created' })).toBeVisible()
  await page.getByRole('link', { name: 'View these links' }).click()
  await page.locator('[data-link-row]', { hasText: `/${name}-1` }).click()
  const sheet = page.getByRole('complementary')
  await expect(sheet).toContainText('1,204 imported')
  await expect(sheet).toContainText('0clicks by people')

  // The next list with these columns is understood at once; a slug that is here waits for a choice.
  await page.goto('/send/many')
  await page.getByLabel('CSV or XLSX file').setInputFiles(dropped(old(`${name}-1`, '3/4/2023', '1,300'), old(`${name}-3`, '3/4/2023', '5')))
  await expect(page.getByText('Using the settings of the last list with these columns')).toBeVisible()
  await expect(page.getByRole('status', { name: 'Preview' })).toHaveText('1 new link · 1 line to correct')
  await choose(page, 'If a slug is taken', 'Update the existing link')
  await expect(page.getByRole('status', { name: 'Preview' })).toHaveText('1 new link · 1 updated')
  await page.getByRole('button', { name: 'Create 1 link, update 1' }).click()
  await expect(page.getByRole('heading', { name: '1 link created, 1 link updated' })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText('2 links undone')).toBeVisible()
  await page.goto(`/links?query=${name}`)
  await expect(page.locator('[data-link-row]')).toHaveCount(2)
  await expect(page.getByRole('row', { name: new RegExp(`/${name}-1`) })).toContainText('+1,204')
})

test('by keyboard alone and on a narrow screen: a list is dropped, its choices are made, its links are there', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await signIn(page)
  const name = unique('dome').replace(' ', '-')
  await page.goto('/links')
  await page.getByRole('link', { name: 'Import links' }).press('Enter')
  await page.getByRole('textbox', { name: 'One address per line' }).fill(`${columns(name)}https://nmoor.localhost/${name},https://northmoor.example/dome,The dome,,,2023-04-03,12,never seen ${name}\n`)
  await page.keyboard.press('Control+Enter')
  const redirect = page.getByRole('combobox', { name: `Redirect “never seen ${name}” becomes` })
  await redirect.focus()
  await page.keyboard.press('ArrowDown')
  await expect(page.getByRole('option', { name: '301 permanent' })).toBeVisible()
  await page.keyboard.press('ArrowDown')
  await expect(page.locator('[data-combobox-selected]')).toBeVisible()
  await page.keyboard.press('Enter')
  const make = page.getByRole('button', { name: 'Create 1 link' })
  await expect(make).toBeEnabled()
  await expect.poll(() => page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true)
  await make.press('Enter')
  await expect(page.getByRole('heading', { name: '1 link created' })).toBeVisible()
})
