import { expect, test, type Page, type Request } from '@playwright/test'
import { call, signIn, unique } from './people'

const views = ['/send', '/links', '/compare', '/audiences', '/needs-attention', '/settings/channels', '/settings/campaigns', '/settings/workspace', '/settings/new-links']

/** Cumulative layout shift of up to 0.1 counts as good (Core Web Vitals, web.dev/articles/cls); what is left here is a field that grows by its key's hint. */
const most = 0.02

for (const [width, height] of [
  [1280, 800],
  [390, 844],
] as const) {
  test(`nothing moves when data arrives, in whatever order, at ${width}x${height}`, async ({ page }) => {
    test.slow()
    await page.setViewportSize({ width, height })
    await signIn(page)
    await useTheList(page)
    await page.addInitScript(() => {
      const seen = { shift: 0 }
      Object.assign(window, { seen })
      new PerformanceObserver((list) => {
        for (const entry of list.getEntries() as Array<PerformanceEntry & { value: number; hadRecentInput: boolean }>)
          if (!entry.hadRecentInput) seen.shift += entry.value
      }).observe({ type: 'layout-shift', buffered: true })
    })
    // Each answer takes another while, so that none can count on coming first.
    await page.route('**/api/v1/**', async (route) => {
      const path = new URL(route.request().url()).pathname
      await new Promise((go) => setTimeout(go, 40 + ([...path].reduce((sum, c) => sum + c.charCodeAt(0), 0) % 7) * 60))
      await route.continue().catch(() => {})
    })
    const open = new Set<Request>()
    const isWaitedFor = (request: Request) => /\/api\/v1\/(?!clicks\/live)/.test(request.url())
    page.on('request', (request) => isWaitedFor(request) && open.add(request))
    page.on('requestfinished', (request) => open.delete(request))
    page.on('requestfailed', (request) => open.delete(request))
    const moved: string[] = []
    for (const view of views) {
      await page.goto(view)
      await page.getByRole('heading', { level: 1 }).waitFor()
      await expect(page.locator('[aria-busy=true]')).toHaveCount(0)
      await expect.poll(() => open.size).toBe(0)
      await page.evaluate(() => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))))
      const shift = await page.evaluate(() => (window as unknown as { seen: { shift: number } }).seen.shift)
      if (shift > most) moved.push(`${view}: ${shift.toFixed(3)}`)
    }
    expect(moved).toEqual([])
  })
}

/** A saved filter and a change that can still be undone: what stands above a list that is in use. */
async function useTheList(page: Page) {
  await call(page, 'POST', 'saved-filters', { name: unique('Steady'), filter: 'channel=poster' })
  const { items } = (await (await page.request.get('/api/v1/links?limit=2')).json()) as { items: Array<{ id: string }> }
  const links = { ids: items.map((link) => link.id) }
  const { id } = await call<{ id: string }>(page, 'POST', 'link-changes', { links, change: { addTags: [unique('steady')] } })
  const state = async () => ((await (await page.request.get(`/api/v1/link-changes/${id}`)).json()) as { state: string }).state
  await expect.poll(state).toBe('done')
}
