import { expect, test } from '@playwright/test'
import { signIn, standins, unique } from './people'

const receiver = `http://receiver.localhost:${standins}`

test('another program checks the signature of what it is told, and a message that didn’t arrive is sent again', async ({ page, context }) => {
  const address = `${receiver}/${unique('hook').replace(' ', '-')}`
  await signIn(page)
  await page.goto('/settings/webhooks')
  const form = page.getByRole('form', { name: 'Add a webhook' })
  await form.getByLabel('Address').fill(address)
  await form.getByRole('button', { name: 'Add webhook' }).press('Enter')
  const secret = await page.getByRole('status').locator('pre').textContent()
  const card = page.getByRole('region', { name: address })

  const outside = await context.newPage()
  await outside.goto(receiver)
  await outside.getByLabel('Secret, to check signatures').fill(secret!)
  await outside.getByLabel('Answers').selectOption('503, out of order')
  await outside.getByRole('button', { name: 'Save' }).click()

  await card.getByRole('button', { name: 'Send a test' }).press('Enter')
  await expect(card.getByRole('table')).toContainText('It answered 503')
  await expect(card).toContainText('Nothing has arrived since')
  await outside.getByLabel('Answers').selectOption('as it should')
  await outside.getByRole('button', { name: 'Save' }).click()
  await card.getByRole('button', { name: /^Send again: Test/ }).press('Enter')
  await expect(card.getByRole('table')).toContainText('Arrived')
  await card.getByRole('button', { name: /^Text of Test/ }).press('Enter')
  await expect(card.locator('pre')).toContainText('"event": "test"')
  await outside.goto(receiver)
  await expect(outside.getByRole('row').nth(1)).toContainText('right')

  await card.getByRole('button', { name: 'Delete' }).press('Enter')
  await card.getByRole('button', { name: 'Delete webhook and messages' }).press('Enter')
  await expect(card).toHaveCount(0)
})
