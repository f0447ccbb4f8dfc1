import { expect, test } from '@playwright/test'
import { signIn } from './people'

test('what copying left around an address is removed as it is pasted, and can be put back; a valid one stays', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'])
  await signIn(page)
  await page.goto('/send')
  const destination = page.getByLabel('Destination')
  const paste = async (text: string) => {
    await destination.fill('')
    await destination.focus()
    await page.evaluate((t) => navigator.clipboard.writeText(t), text)
    await page.keyboard.press('Control+V')
  }
  await paste('“http://www.northmoor.localhost/events”,')
  await expect(destination).toHaveValue('http://www.northmoor.localhost/events')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(destination).toHaveValue('“http://www.northmoor.localhost/events”,')
  await paste('http://www.northmoor.localhost/wow!')
  await expect(destination).toHaveValue('http://www.northmoor.localhost/wow!')
  await expect(page.getByRole('button', { name: 'Undo' })).toBeHidden()
})

test('an address pasted anywhere, or shared, is freed in the same way', async ({ page }) => {
  await signIn(page)
  await page.goto('/links')
  await page.getByText(/^[\d,]+ links$/).waitFor()
  await page.evaluate(() => navigator.clipboard.writeText('“https://www.northmoor.example/events”,'))
  await page.keyboard.press('Control+V')
  await page.waitForURL('**/send?to=*')
  await expect(page.getByLabel('Destination')).toHaveValue('https://www.northmoor.example/events')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByLabel('Destination')).toHaveValue('“https://www.northmoor.example/events”,')

  await page.goto(`/send?${new URLSearchParams({ to: 'https://www.northmoor.example/wiki/Sirius_(star)!' })}`)
  await expect(page.getByLabel('Destination')).toHaveValue('https://www.northmoor.example/wiki/Sirius_(star)!')
})
