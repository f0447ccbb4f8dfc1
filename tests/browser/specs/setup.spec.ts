import { expect, test } from '@playwright/test'
import { chooseCampaign, signIn, tick, unique } from './people'

test('a campaign is added once; the second time its name is told to exist', async ({ page }) => {
  await signIn(page)
  await page.goto('/settings/campaigns')
  const name = unique('Equinox')
  for (let i = 0; i < 2; i++) {
    await page.getByLabel('New campaign').fill(name)
    await page.getByRole('button', { name: 'Add campaign' }).click()
    if (i === 0) await expect(page.getByRole('row', { name })).toContainText(name.toLowerCase().replace(' ', '-'))
  }
  await expect(page.getByRole('alert')).toContainText('already')
})

test('an owner adds a short domain, is introduced to it, and makes it the default and back', async ({ page, context }) => {
  await signIn(page)
  await page.goto('/settings/domains')
  await expect(page.getByRole('row', { name: /^visit-northmoor\.example/ }).first()).toContainText('doesn’t point here yet')
  const name = `${unique('moon').replace(' ', '-')}.localhost`
  await page.getByLabel('New short domain').fill(name)
  await page.getByRole('button', { name: 'Add domain' }).click()
  const row = page.getByRole('row', { name: new RegExp(name) })
  await expect(row).toContainText('working')
  await expect
    .poll(async () => (await context.cookies(`http://${name}:${new URL(page.url()).port}`)).map((c) => c.name))
    .toContain('cursus-team')
  await row.getByRole('button', { name: 'Make default' }).click()
  await expect(row).toContainText('default for new links')
  await page.getByRole('row', { name: /nmoor\.localhost/ }).getByRole('button', { name: 'Make default' }).click()
  await expect(row).not.toContainText('default for new links')
})

test('a token is shown once, works, and is revoked', async ({ page, request }) => {
  await signIn(page)
  await page.goto('/settings/tokens')
  const name = unique('Robot')
  await page.getByLabel('Which program is it for?').fill(name)
  await page.getByRole('button', { name: 'Create token' }).click()
  const token = await page.getByText(/^cursus_[0-9a-f]{64}$/).textContent()
  const ask = () => request.get('/api/v1/members', { headers: { Authorization: `Bearer ${token}` } })
  expect((await ask()).status()).toBe(200)
  await page.getByRole('button', { name: `Revoke the token for ${name}` }).click()
  await expect(page.getByRole('row', { name })).toBeHidden()
  expect((await ask()).status()).toBe(401)
})

test('a viewer sees the agreed words and nothing to change them with', async ({ page }) => {
  await signIn(page, 'Priya Lindqvist')
  await page.goto('/settings')
  await expect(page.getByRole('row', { name: /Guildhall/ })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Add channel' })).toBeHidden()
  await page.getByRole('navigation', { name: 'Settings' }).getByRole('link', { name: 'Members' }).click()
  await expect(page).toHaveURL(/settings\/members$/)
  await expect(page.getByRole('row', { name: /Maren Holloway/ })).toContainText('Owner')
})

test('the scheme is chosen in the account menu and stays', async ({ page }) => {
  await signIn(page)
  const root = page.locator('html')
  await page.getByRole('button', { name: /^Account of/ }).click()
  await page.getByRole('menuitem', { name: 'Dark' }).click()
  await expect(root).toHaveAttribute('data-mantine-color-scheme', 'dark')
  await page.reload()
  await expect(root).toHaveAttribute('data-mantine-color-scheme', 'dark')
})

test('a folder is added, renamed and deleted, and a tag gets another colour', async ({ page }) => {
  await signIn(page)
  await page.goto('/settings/tags')
  const name = unique('Clients')
  await page.getByLabel('New folder').fill(name)
  await page.getByRole('button', { name: 'Add folder' }).click()
  await page.getByRole('button', { name: `Rename ${name}` }).click()
  await page.getByLabel(`New name for ${name}`).fill(`${name} of ours`)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('row', { name: `${name} of ours` })).toBeVisible()
  await page.getByRole('button', { name: `Delete ${name} of ours` }).click()
  await expect(page.getByRole('row', { name: `${name} of ours` })).toBeHidden()

  const color = page.getByRole('combobox', { name: 'Colour of school' })
  await color.click()
  await page.getByRole('option', { name: 'Slate' }).click()
  await expect(color).toHaveValue('Slate')
  await page.reload()
  await expect(color).toHaveValue('Slate')
})

test('a campaign begins with a recipe, and a recipe is renamed', async ({ page }) => {
  await signIn(page)
  const recipe = unique('Two channels')
  await tick(page, 'Perch', 'Aperta')
  await page.getByRole('combobox', { name: 'Tags' }).fill('event')
  await page.keyboard.press('Enter')
  await page.getByRole('combobox', { name: 'Recipe' }).click()
  await page.getByRole('option', { name: 'Save as recipe' }).click()
  await page.getByLabel('Recipe name').fill(recipe)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('combobox', { name: 'Recipe' })).toHaveValue(recipe)
  await page.goto('/settings/campaigns')
  await page.getByRole('combobox', { name: 'Recipe of School visits', exact: true }).click()
  await Promise.all([
    page.waitForResponse((response) => response.request().method() === 'PATCH'),
    page.getByRole('option', { name: recipe }).click(),
  ])
  await page.goto('/settings/recipes')
  await page.getByRole('button', { name: `Rename ${recipe}` }).click()
  await page.getByLabel(`New name for ${recipe}`).fill(`${recipe} again`)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('row', { name: new RegExp(`^${recipe} again.*Perch, Aperta.*event`) })).toBeVisible()

  await page.goto('/send')
  await chooseCampaign(page, 'School visits')
  await expect(page.getByRole('checkbox', { name: 'Include Aperta' })).toBeChecked()
  await expect(page.getByRole('checkbox', { name: 'Include Guildhall' })).not.toBeChecked()
  await page.goto('/settings/recipes')
  await page.getByRole('button', { name: `Delete ${recipe} again` }).click()
  await page.getByRole('button', { name: 'Delete' }).click()
  await expect(page.getByRole('row', { name: new RegExp(`^${recipe} again`) })).toBeHidden()
})
