import { expect, test } from '@playwright/test'
import { signIn, standins, unique } from './people'

test('the domain goes from red to green through the registrar', async ({ page, context }) => {
  await signIn(page)
  await page.goto('/settings/domains')
  await expect(page.getByText('Points to 192.0.2.80. Replace that with 203.0.113.10 and 203.0.113.11.')).toBeVisible()
  const proof = (await page.getByText(/^cursus-proof=/).textContent())!

  const registrar = await context.newPage()
  await registrar.goto(`http://registrar.localhost:${standins}/`)
  await registrar.getByRole('button', { name: 'Remove A visit-northmoor.example 192.0.2.80' }).click()
  for (const [type, name, value] of [
    ['A', 'visit-northmoor.example', '203.0.113.10'],
    ['A', 'visit-northmoor.example', '203.0.113.11'],
    ['TXT', '_cursus.visit-northmoor.example', proof],
  ] as const) {
    await registrar.getByLabel('Type').selectOption(type)
    await registrar.getByRole('textbox', { name: 'Name' }).fill(name)
    await registrar.getByLabel('Value').fill(value)
    await registrar.getByRole('button', { name: 'Add record' }).click()
    await expect(registrar.getByRole('cell', { name: value, exact: true })).toBeVisible()
  }

  await page.getByRole('button', { name: 'Check again now' }).click()
  await expect(page.getByText('Proves that the domain is yours.')).toBeVisible()
  await expect(page.getByRole('row', { name: /^visit-northmoor\.example/ }).first()).toContainText('working')
  await page.goto('/send')
  await page.getByRole('combobox', { name: 'Short domain' }).click()
  await page.getByRole('option', { name: 'visit-northmoor.example' }).click()
  await expect(page.getByRole('columnheader', { name: 'Short link on visit-northmoor.example' })).toBeVisible()
})

test('two spellings are counted as one, and as two again when that is taken back', async ({ page }) => {
  await signIn(page)
  await page.goto('/settings/utm')
  await page.getByRole('button', { name: 'Count School-Visits as school-visits', exact: true }).click()
  await expect(page.getByText('No values look like different spellings of the same thing.')).toBeVisible()
  await page.goto('/compare?by=campaign&period=this-year')
  await expect(page.getByText('School visits').first()).toBeVisible()
  await expect(page.getByText('typed otherwise')).toBeHidden()
  await page.goto('/settings/utm')
  await page.getByRole('button', { name: /^Undo counting/ }).click()
  await expect(page.getByRole('button', { name: 'Count School-Visits as school-visits', exact: true })).toBeVisible()
})

test('a list of contents is taken line by line, and its bad lines are told', async ({ page }) => {
  await signIn(page)
  await page.goto('/settings/utm')
  const value = unique('banner').replace(' ', '-')
  const contents = page.getByRole('region', { name: 'Contents' })
  await contents.getByRole('button', { name: 'Add a list' }).click()
  await page.getByLabel('One value per line').fill(`content\n${value}\n${value}\n`)
  await page.getByRole('button', { name: 'Add these lines' }).click()
  await expect(page.getByText('1 value added.')).toBeVisible()
  await expect(page.getByText('Line 2 has the same value.')).toBeVisible()
  await page.getByRole('heading', { name: 'UTM values' }).click()
  await contents.getByRole('button', { name: `Remove ${value} from the list` }).click()
  await expect(contents.getByText(value)).toBeHidden()
})

test('a campaign in other spelling is asked about before it splits the figures', async ({ page }) => {
  await signIn(page)
  await page.getByLabel('Campaign', { exact: true }).fill('Wintermembers')
  await expect(page.getByRole('option', { name: /Did you mean “Winter members”/ })).toBeVisible()
  await page.getByLabel('Campaign', { exact: true }).fill('Night Letter')
  await expect(page.getByRole('group', { name: 'Next in series' })).toBeVisible()
})
