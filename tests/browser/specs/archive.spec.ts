import { expect, test } from '@playwright/test'
import { readFile } from 'node:fs/promises'
import { signIn } from './people'

test('an owner takes the whole workspace away, and a workspace with links takes none in', async ({ page }) => {
  await signIn(page)
  await page.goto('/settings/archive')
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Export the workspace' }).click()
  const archive = await download
  expect(archive.suggestedFilename()).toMatch(/^cursus-\d{4}-\d{2}-\d{2}\.zip$/)
  const path = await archive.path()
  expect((await readFile(path)).subarray(0, 2).toString()).toBe('PK')

  await page.locator('input[type=file]').setInputFiles(path)
  await expect(page.getByRole('alert')).toContainText('This workspace already has links.')
})

test('an editor is offered no archive', async ({ page }) => {
  await signIn(page, 'Tobias Finch')
  await page.goto('/settings/archive')
  await page.getByText('Only owners can export or import').waitFor()
  await expect(page.getByRole('link', { name: 'Export the workspace' })).toHaveCount(0)
})
