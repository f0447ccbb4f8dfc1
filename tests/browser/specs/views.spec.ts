import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import { signIn } from './people'

const views = ['/send', '/send/many', '/links', '/links?view=flat&query=night', '/compare', '/compare?by=post&course=stacked', '/campaigns/winter-members', '/digest', '/needs-attention', '/settings', '/settings/workspace', '/settings/new-links', '/settings/campaigns', '/settings/utm', '/settings/recipes', '/settings/tags', '/settings/domains', '/settings/link-check', '/settings/referrers', '/settings/counting', '/settings/any-page', '/settings/members', '/settings/audit', '/settings/routes', '/account', '/settings/tokens', '/settings/webhooks', '/settings/archive', '/workspaces', '/no-such-page']

/** Half of all views, loaded; with the second half come one link's sheet and one post's hand-out. */
async function* allViews(page: Page, half: number) {
  for (const path of views.filter((_, place) => place % 2 === half)) {
    await page.goto(path)
    await settled(page)
    yield path
  }
  if (half === 0) return
  await page.goto('/links?query=hundred')
  await page.locator('[data-link-row]').first().click()
  await page.getByRole('complementary', { name: 'Link' }).getByRole('heading').waitFor()
  yield 'link'
  await page.getByRole('definition').getByRole('link').last().click()
  await page.getByRole('button', { name: 'Copy all' }).waitFor()
  yield 'hand-out'
}

async function settled(page: Page) {
  await page.getByRole('heading', { level: 1 }).waitFor()
  await expect(page.locator('[aria-busy=true]')).toHaveCount(0)
}

async function seriousFindings(page: Page, view: string) {
  // What has been scrolled half below the head is no fault of the view.
  await page.evaluate(() => window.scrollTo(0, 0))
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']).analyze()
  return violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical')
    .flatMap((v) => v.nodes.map((n) => `${view}: ${v.id} at ${n.target.join(' ')}: ${n.failureSummary?.split('\n')[1] ?? ''}`))
}

const screens = [
  { colorScheme: 'light', width: 1280, height: 800 },
  { colorScheme: 'dark', width: 1280, height: 800 },
  { colorScheme: 'dark', width: 390, height: 844 },
  { colorScheme: 'light', width: 390, height: 844 },
] as const

/** Shows what is open on every screen in both schemes, loaded once, and says what is wrong with it there. */
async function faults(page: Page, view: string) {
  const found: string[] = []
  for (const { colorScheme, width, height } of screens) {
    await page.setViewportSize({ width, height })
    await page.emulateMedia({ colorScheme })
    // The application learns of it a moment after the browser.
    await expect(page.locator('html')).toHaveAttribute('data-mantine-color-scheme', colorScheme)
    await expect(page.locator('[aria-busy=true]')).toHaveCount(0)
    found.push(...(await seriousFindings(page, `${view}, ${colorScheme} at ${width}`)))
    const over = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)
    if (over > 0) found.push(`${view} at ${width}: ${over} px too wide`)
  }
  await page.setViewportSize({ width: 1280, height: 800 })
  return found
}

// In two halves, which two browsers share.
test.describe.configure({ mode: 'parallel' })

for (const half of [0, 1]) {
  test(`no view has a serious accessibility finding or scrolls sideways, in either scheme, on a desk or a phone (${half + 1} of 2)`, async ({ page }) => {
    test.setTimeout(600_000)
    const found: string[] = []
    if (half === 0) {
      await page.goto('/sign-in')
      await page.getByRole('heading', { level: 1 }).waitFor()
      found.push(...(await faults(page, '/sign-in')))
    }
    await signIn(page)
    if (half === 0) {
      await page.getByLabel('Destination').fill('javascript:x')
      await page.getByLabel('Slug for Perch').fill('geminids-perch')
      await page.getByText('taken').waitFor()
      found.push(...(await faults(page, 'sheet with errors')))
    }
    for await (const view of allViews(page, half)) found.push(...(await faults(page, view)))
    expect(found).toEqual([])
  })
}

test('hashed files are kept by browsers for a year, the page itself is not', async ({ request }) => {
  const page = await request.get('/')
  expect(page.headers()['cache-control']).toBe('no-cache')
  const script = /\/assets\/[^"]+\.js/.exec(await page.text())![0]
  const file = await request.get(script, { headers: { 'Accept-Encoding': 'br' } })
  expect(file.headers()['cache-control']).toBe('public, max-age=31536000, immutable')
  expect(file.headers()['content-encoding']).toBe('br')
})

test('the API describes itself', async ({ request, page }) => {
  const document = (await (await request.get('/api/openapi.json')).json()) as { openapi: string; paths: object }
  expect(document.openapi).toMatch(/^3\.1/)
  expect(Object.keys(document.paths)).toContain('/api/v1/posts')
  await page.goto('/api/reference')
  await expect(page).toHaveTitle('Cursus API')
})
