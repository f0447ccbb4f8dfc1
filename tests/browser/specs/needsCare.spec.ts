import { expect, test, type APIRequestContext, type Page } from '@playwright/test'
import { address, call, chooseCampaign, signIn, standins, tick, unique } from './people'

const port = new URL(address).port

/** Lets a page of the demo's sites die, lie, move, or come back. */
async function setMood(request: APIRequestContext, page: string, mood: string) {
  const answer = await request.post(`http://127.0.0.1:${standins}/`, { headers: { Host: `moods.localhost:${standins}` }, form: { page, mood }, maxRedirects: 0 })
  expect(answer.status()).toBe(303)
}

/** Sends a post to a page of its own, and returns the slug of its only link. */
async function sendPost(page: Page, path: string, title: string) {
  const slug = unique('kit').replace(' ', '-')
  await page.goto('/send')
  await page.getByLabel('Destination').fill(`www.northmoor.localhost:${standins}${path}`)
  await chooseCampaign(page, 'winter members')
  await page.getByLabel('Title', { exact: true }).fill(title)
  await tick(page, 'Perch')
  await page.getByLabel('Slug for Perch').fill(slug)
  await page.keyboard.press('Control+Enter')
  await page.getByRole('button', { name: 'Copy all' }).waitFor()
  return slug
}

const follow = async (request: APIRequestContext, slug: string) =>
  (await request.get(`http://127.0.0.1:${port}/${slug}`, { headers: { Host: 'nmoor.localhost' }, maxRedirects: 0 })).headers().location

test('a page dies, visitors are led to a fallback meanwhile, and back when it has come back', async ({ page, request }) => {
  test.slow()
  await signIn(page)
  const path = `/care/${unique('talk').replace(' ', '-')}`
  const site = `www.northmoor.localhost:${standins}${path}`
  const slug = await sendPost(page, path, unique('A talk'))

  // The check asks the page when the link is made; afterwards it dies, and by hand it is asked again at once.
  await page.goto(`/links?query=${slug}`)
  await page.locator('[data-link-row]').first().click()
  const sheet = page.getByRole('complementary', { name: 'Link' })
  await expect(sheet.getByText(/^Fine/)).toBeVisible({ timeout: 30_000 })
  await setMood(request, site, 'gone')
  const id = page.url().match(/links\/([0-9a-f-]{36})/)![1]
  const { check } = (await (await page.request.get(`/api/v1/links/${id}`)).json()) as { check: { page: string } }
  await call(page, 'POST', `link-checks/${check.page}/again`, undefined, 200)

  await page.goto('/links')
  await page.getByRole('link', { name: /pages? needs? attention/ }).click()
  const entry = page.getByRole('listitem', { name: site })
  await expect(entry).toContainText('Gone since')
  await expect(entry).toContainText('The site says this page doesn’t exist (410).')
  await expect(entry.getByRole('link', { name: /A talk/ })).toBeVisible()
  expect(await follow(request, slug)).toContain(path)

  await entry.getByRole('button', { name: 'Use fallback for now' }).click()
  await entry.getByLabel('Where visitors go until the page is back').fill(`www.northmoor.localhost:${standins}/events`)
  await page.keyboard.press('Enter')
  await expect(entry).toContainText(`For now, visitors go to www.northmoor.localhost:${standins}/events`)
  expect(await follow(request, slug)).toBe(`http://www.northmoor.localhost:${standins}/events?utm_source=perch&utm_medium=social&utm_campaign=winter-members`)

  await setMood(request, site, 'well')
  await entry.getByRole('button', { name: 'Check now' }).click()
  await expect(entry).toHaveCount(0)
  expect(await follow(request, slug)).toContain(path)
})

test('a dead page is replaced in all its links by keyboard alone, and that is taken back', async ({ page, request }) => {
  await signIn(page)
  await page.goto('/needs-attention')
  const entry = page.getByRole('listitem', { name: `lensworks.localhost:${standins}/products/starter-kit-70` })
  await expect(entry).toContainText('A telescope that fits under a bed')
  await entry.getByRole('button', { name: 'Change destination' }).focus()
  await page.keyboard.press('Enter')
  await page.keyboard.type(`lensworks.localhost:${standins}/products/travel-kit`)
  await page.keyboard.press('Enter')
  await expect(entry).toHaveCount(0)
  expect(await follow(request, 'starter-kit-perch')).toContain('/products/travel-kit?')
  await page.getByRole('button', { name: 'Undo' }).first().press('Enter')
  await expect(page.getByText('4 links restored')).toBeVisible()
  await page.reload()
  await expect(entry).toContainText('Gone since', { timeout: 30_000 })
  expect(await follow(request, 'starter-kit-perch')).toContain('/products/starter-kit-70?')
})

test('a changed page is fine as it is once somebody says so, and an ignored one comes back by hand', async ({ page }) => {
  await signIn(page)
  await page.goto('/needs-attention')
  const moved = page.getByRole('listitem', { name: `skycalendar.localhost:${standins}/occultations` })
  await expect(moved).toContainText('It has moved permanently')
  await moved.getByRole('button', { name: 'Ignore for a while' }).click()
  await page.getByRole('menuitem', { name: 'A week' }).click()
  await expect(moved).toHaveCount(0)
  await page.getByRole('link', { name: /^Ignored: / }).click()
  await moved.getByRole('button', { name: 'Stop ignoring' }).click()
  await expect(moved).toHaveCount(0)
  await page.getByRole('link', { name: 'Needs attention' }).first().click()
  await expect(moved).toBeVisible()

  const lying = page.getByRole('listitem', { name: `lensworks.localhost:${standins}/guides/binoculars` })
  await expect(lying).toContainText('The page loads, but says “page not found”.')
  await lying.getByRole('button', { name: 'Mark as fine' }).click()
  await expect(lying).toHaveCount(0)
})

test('whoever only looks can do nothing about it, and the digest tells of it', async ({ page }) => {
  await signIn(page, 'Priya Lindqvist')
  await page.goto('/needs-attention')
  await expect(page.getByRole('listitem').first()).toBeVisible()
  await expect(page.getByRole('button', { name: 'Check now' })).toHaveCount(0)
  await expect(page.getByText(/certificate of stars\.localhost ends on/)).toBeVisible({ timeout: 15_000 })
  await page.goto('/digest')
  await page.getByRole('region', { name: 'Needs attention' }).getByRole('link').first().click()
  await expect(page.getByRole('heading', { level: 1, name: 'Needs attention' })).toBeVisible()
})
