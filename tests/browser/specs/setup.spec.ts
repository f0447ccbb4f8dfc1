import { expect, test } from '@playwright/test'
import { signIn, unique } from './people'

test('a campaign is added once; the second time its name is told to exist', async ({ page }) => {
  await signIn(page)
  await page.goto('/set-up?part=campaigns')
  const name = unique('Equinox')
  for (let i = 0; i < 2; i++) {
    await page.getByLabel('Name of a new campaign').fill(name)
    await page.getByRole('button', { name: 'Add campaign' }).click()
    if (i === 0) await expect(page.getByRole('row', { name })).toContainText(name.toLowerCase().replace(' ', '-'))
  }
  await expect(page.getByRole('alert')).toContainText('already')
})

test('an owner adds a short domain, is introduced to it, and makes it the default and back', async ({ page, context }) => {
  await signIn(page)
  await page.goto('/set-up?part=domains')
  await expect(page.getByRole('row', { name: /^visit-northmoor\.example/ }).first()).toContainText('does not point here yet')
  const name = `${unique('moon').replace(' ', '-')}.localhost`
  await page.getByLabel('Name of a new short domain').fill(name)
  await page.getByRole('button', { name: 'Add domain' }).click()
  const row = page.getByRole('row', { name: new RegExp(name) })
  await expect(row).toContainText('answers')
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
  await page.goto('/set-up?part=tokens')
  const name = unique('Robot')
  await page.getByLabel('Which program is it for?').fill(name)
  await page.getByRole('button', { name: 'Make token' }).click()
  const token = await page.getByText(/^cursus_[0-9a-f]{64}$/).textContent()
  const ask = () => request.get('/api/v1/members', { headers: { Authorization: `Bearer ${token}` } })
  expect((await ask()).status()).toBe(200)
  await page.getByRole('button', { name: `Revoke the token for ${name}` }).click()
  await expect(page.getByRole('row', { name })).toBeHidden()
  expect((await ask()).status()).toBe(401)
})

test('a viewer sees the agreed words and nothing to change them with', async ({ page }) => {
  await signIn(page, 'Priya Lindqvist')
  await page.goto('/set-up')
  await expect(page.getByRole('row', { name: /Guildhall/ })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Add channel' })).toBeHidden()
  await page.getByRole('tab', { name: 'Members' }).click()
  await expect(page).toHaveURL(/part=members/)
  await expect(page.getByRole('row', { name: /Maren Holloway/ })).toContainText('owner')
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
