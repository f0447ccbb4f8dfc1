import { expect, test } from '@playwright/test'
import { holdWriting } from './database'
import { chooseCampaign, signIn, unique } from './people'

test('a CSV with errors: each is told with its line, the good lines are made alone, the result is taken along', async ({ page }) => {
  await signIn(page)
  const slug = unique('talk').toLowerCase().replace(' ', '-')
  const campaign = unique('Spring talks')
  await page.getByRole('link', { name: 'Bulk' }).click()
  const csv = `URL;Headline;Network;utm_campaign;Slug
northmoor.example/1;One;Guildhall;Winter members;${slug}-1
ftp://northmoor.example/2;Two;Perch;Winter members;
northmoor.example/3;Three;Chirper;Winter members;
northmoor.example/4;Four;Perch;${campaign};${slug}-4
northmoor.example/5;Five;Perch;Winter members;${slug}-1
`
  await page.getByLabel('CSV or XLSX file').setInputFiles({ name: 'talks.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) })
  await expect(page.getByRole('region', { name: '4 lines can’t be used as they are' })).toContainText(/Line 3 .*ftp.*Line 4 .*Chirper.*Line 5 .*Line 6 .*earlier line/s)
  await expect(page.getByRole('button', { name: 'Create links from all 5 lines' })).toBeDisabled()

  await page.getByRole('combobox', { name: 'Headline is the' }).click()
  await page.getByRole('option', { name: 'Title', exact: true }).click()
  await page.getByRole('button', { name: 'Add it' }).click()
  await expect(page.getByRole('region', { name: '3 lines can’t be used as they are' })).toBeVisible()
  await expect(page.getByRole('row', { name: /Perch Four/ })).toContainText(`${slug}-4`)
  await page.getByText('Only the valid lines').click()
  await page.getByRole('button', { name: 'Create 2 links' }).click()
  await expect(page.getByRole('heading', { name: '2 links created' })).toBeVisible()

  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Download as CSV' }).click()])
  expect(download.suggestedFilename()).toBe('talks links.csv')
  const result = await page.request.get((await page.getByRole('link', { name: 'Download as CSV' }).getAttribute('href'))!)
  const lines = (await result.text()).trim().split('\r\n')
  expect(lines).toHaveLength(6)
  expect(lines[1]).toContain(`/${slug}-1,`)
  expect(lines[3]).toContain('Chirper')

  await page.getByRole('link', { name: 'View these links' }).click()
  await expect(page.locator('[data-link-row]')).toHaveCount(2)
})

test('by keyboard alone: a list is pasted anywhere, made for two channels, and taken back', async ({ page }) => {
  await signIn(page)
  await page.goto('/links')
  await expect(page.getByText(/^[\d,]+ links$/)).toBeVisible()
  await page.evaluate(() => navigator.clipboard.writeText('northmoor.example/orion\nnorthmoor.example/lyra\n'))
  await page.keyboard.press('Control+V')
  await page.waitForURL('**/send/many?batch=*')
  await page.getByRole('combobox', { name: 'Channels' }).focus()
  await page.keyboard.type('Perch')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Control+A')
  await page.keyboard.type('Aperta')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await chooseCampaign(page, 'winter')
  await expect(page.getByRole('button', { name: 'Create 4 links' })).toBeEnabled()
  await page.getByRole('button', { name: 'Create 4 links' }).press('Enter')
  await expect(page.getByRole('heading', { name: '4 links created' })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).press('Enter')
  await expect(page.getByText('4 links undone')).toBeVisible()
  await expect(page.getByRole('textbox', { name: 'One address per line' })).toBeVisible()
})

test('what is no list is refused with what to do, and what was typed stays', async ({ page }) => {
  await signIn(page)
  await page.goto('/send/many')
  await page.getByLabel('One address per line').fill('northmoor.example/orion')
  await page.getByLabel('CSV or XLSX file').setInputFiles({ name: 'old.xls', mimeType: 'application/vnd.ms-excel', buffer: Buffer.from([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1]) })
  await expect(page.getByRole('alert')).toContainText('Save it as .xlsx or CSV')
  await expect(page.getByLabel('One address per line')).toHaveValue('northmoor.example/orion')
})

test('ten thousand links are made with a bar that shows how far, and can be cancelled', async ({ page }) => {
  await signIn(page)
  await page.goto('/send/many')
  await page.getByLabel('CSV or XLSX file').setInputFiles({
    name: 'stars.txt',
    mimeType: 'text/plain',
    buffer: Buffer.from(Array.from({ length: 10_000 }, (_, i) => `northmoor.example/stars/${i}`).join('\n')),
  })
  const release = await holdWriting('links')
  await page.getByRole('button', { name: 'Create 10,000 links' }).click()
  await expect(page.getByRole('progressbar', { name: 'Links created' })).toBeAttached()
  await expect(page.getByText('0 of 10,000 created')).toBeVisible()
  await page.getByRole('button', { name: 'Cancel' }).click()
  await expect(page.getByText('It was cancelled; no links were created.')).toBeVisible()
  release()
  await page.getByRole('button', { name: 'Discard' }).click()
  await expect(page.getByLabel('One address per line')).toBeVisible()
})
