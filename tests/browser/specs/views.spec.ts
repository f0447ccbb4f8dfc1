import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import { signIn } from './people'

const views = ['/send', '/send/many', '/links', '/links?view=flat&query=night', '/compare', '/compare?by=post&course=stacked', '/campaigns/winter-members', '/digest', '/needs-attention', '/settings', '/settings/workspace', '/settings/new-links', '/settings/campaigns', '/settings/utm', '/settings/recipes', '/settings/tags', '/settings/domains', '/settings/link-check', '/settings/referrers', '/settings/counting', '/settings/any-page', '/settings/members', '/settings/tokens', '/settings/archive', '/no-such-page']

/** Every view, loaded: the places, one link's sheet and one post's hand-out. */
async function* allViews(page: Page) {
  for (const path of views) {
    await page.goto(path)
    await settled(page)
    yield path
  }
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
  { colorScheme: 'light', width: 390, height: 844 },
  { colorScheme: 'dark', width: 390, height: 844 },
] as const

for (const { colorScheme, width, height } of screens) {
  test(`no view has a serious accessibility finding, ${colorScheme} at ${width}x${height}`, async ({ page }) => {
    test.setTimeout(300_000)
    await page.setViewportSize({ width, height })
    await page.emulateMedia({ colorScheme })
    const findings: string[] = []
    await page.goto('/sign-in')
    await page.getByRole('heading', { level: 1 }).waitFor()
    findings.push(...(await seriousFindings(page, '/sign-in')))
    await signIn(page)
    await page.getByLabel('Destination').fill('javascript:x')
    await page.getByLabel('Slug for Perch').fill('geminids-perch')
    await page.getByText('taken').waitFor()
    findings.push(...(await seriousFindings(page, 'sheet with errors')))
    for await (const view of allViews(page)) findings.push(...(await seriousFindings(page, view)))
    expect(findings).toEqual([])
  })
}

test('no view scrolls sideways on a desk or on a phone', async ({ page }) => {
  test.slow()
  await signIn(page)
  const wide: string[] = []
  for (const [width, height] of [
    [1280, 800],
    [390, 844],
  ] as const) {
    await page.setViewportSize({ width, height })
    for await (const view of allViews(page)) {
      const over = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)
      if (over > 0) wide.push(`${view} at ${width}: ${over} px too wide`)
    }
  }
  expect(wide).toEqual([])
})

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
