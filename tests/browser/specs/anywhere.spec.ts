import { expect, test } from '@playwright/test'
import { address, signIn } from './people'

test('a quick link is made from the address bar in two keys, copied, and taken back', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare')
  await page.getByRole('heading', { level: 1 }).waitFor()
  await page.keyboard.press('/')
  await page.keyboard.type('lensworks.example/mirrors')
  await expect(page.getByRole('option', { name: 'New post with this address' })).toHaveAttribute('data-combobox-selected', 'true')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await expect(page.getByText('is copied')).toBeVisible()
  const short = await page.evaluate(() => navigator.clipboard.readText())
  expect(short).toMatch(/^http:\/\/nmoor\.localhost:\d+\/[a-z0-9]{6}$/)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText('Undone')).toBeVisible()
  const path = new URL(short).pathname
  const gone = await page.request.get(new URL(path, address).href, { headers: { Host: new URL(short).host }, maxRedirects: 0 })
  expect(gone.status()).toBe(404)
})

test('the bookmark begins a post with the page it is clicked on, and so does a phone that shares one', async ({ page }) => {
  await signIn(page)
  await page.goto('/settings/any-page')
  const script = (await page.getByText('Send this page').getAttribute('href'))!
  expect(script).toBe(`javascript:void(location.href='${address}/send?to='+encodeURIComponent(location.href))`)

  const manifest = (await (await page.request.get('/manifest.webmanifest')).json()) as { share_target: { action: string; params: Record<string, string> } }
  const { action, params } = manifest.share_target
  await page.goto(`${action}?${new URLSearchParams({ [params.title!]: 'Geminids', [params.text!]: 'Look: https://northmoor.example/geminids' })}`)
  await expect(page.getByLabel('Destination')).toHaveValue('https://northmoor.example/geminids')
})
