import { mkdirSync, writeFileSync } from 'node:fs'
import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Browser, type BrowserContextOptions, type Page } from '@playwright/test'
import { call, signIn, standins, stranger, unique } from './people'

interface Handoff {
  shortUrl: string
  slug: string
  linkId: string
  pixels: string[]
}

const ofTheDemo = ['Fairlead, everybody', 'Beaconry, night sky', 'Guildhall Ads']

/** A link to somebody else's article that fires the demo's pixels; how visitors are asked is set too. */
async function linkWithPixels(page: Page, consent: 'off' | 'everybody', more: Record<string, unknown> = {}, only?: string): Promise<Handoff> {
  await call(page, 'PATCH', 'handoff', { consent })
  const { items } = (await (await page.request.get('/api/v1/pixels')).json()) as { items: Array<{ id: string; name: string; network: string }> }
  const pixels = items.filter((p) => ofTheDemo.includes(p.name) && (!only || p.network === only)).map((p) => p.id)
  const link = await call<{ id: string; shortUrl: string; slug: string }>(page, 'POST', 'links', {
    destination: `http://skycalendar.localhost:${standins}/articles/${unique('comet').replace(' ', '-')}`,
    title: unique('A shy comet'),
    campaign: 'winter-members',
    channel: 'perch',
    pixels,
    ...more,
  })
  return { shortUrl: link.shortUrl, slug: link.slug, linkId: link.id, pixels }
}

/** A visitor's page; whatever its policy refuses is a failure. */
async function visit(browser: Browser, options: BrowserContextOptions = {}) {
  const context = await (Object.keys(options).length > 0 ? browser.newContext(options) : stranger(browser))
  const page = await context.newPage()
  const violations: string[] = []
  page.on('console', (message) => {
    if (/Content.Security.Policy/i.test(message.text())) violations.push(message.text())
  })
  return { context, page, violations }
}

/** Visits that an ad network was really told of, for one short address. */
async function told(page: Page, network: string, slug: string) {
  const visits = (await (await page.request.get(`http://localhost:${standins}/visits.json`, { headers: { Host: `${network}.localhost` } })).json()) as Array<{ browser: string; pixel: string; address: string }>
  return visits.filter((v) => v.address.endsWith(`/${slug}`))
}

const networks = ['fairlead', 'beaconry', 'guildhall-ads']

/** What became of the pixels of one link. */
async function outcomes(page: Page, { pixels, slug }: Handoff) {
  const found = []
  for (const id of pixels) {
    const { parts } = (await (await page.request.get(`/api/v1/pixels/${id}/audience?by=link`)).json()) as {
      parts: Array<{ label: string; outcomes: { fired: number; missed: number; declined: number; optedOut: number } }>
    }
    const { fired = 0, missed = 0, declined = 0, optedOut = 0 } = parts.find((p) => p.label.endsWith(`/${slug}`))?.outcomes ?? {}
    found.push([fired, missed, declined, optedOut])
  }
  return found
}

/** A profile that keeps cookies of ad networks. Private windows, and Debian's Chromium unless told otherwise, keep none: there no network knows anybody. */
function profileThatKeepsCookies(folder: string) {
  mkdirSync(`${folder}/Default`, { recursive: true })
  writeFileSync(`${folder}/Default/Preferences`, JSON.stringify({ profile: { cookie_controls_mode: 0, block_third_party_cookies: false } }))
  return folder
}

test.afterAll(async ({ browser }) => {
  const page = await browser.newPage()
  await signIn(page)
  await call(page, 'PATCH', 'handoff', { consent: 'listed' })
  await page.close()
})

test('every network is told once, the visitor arrives quickly with referrer and tags, and back leads back', async ({ page, browser }) => {
  await signIn(page)
  const link = await linkWithPixels(page, 'off')
  const visitor = await visit(browser)
  await visitor.page.goto(`http://perch.localhost:${standins}/`)
  await visitor.page.evaluate((to) => location.assign(to), link.shortUrl)
  await expect(visitor.page.getByRole('heading', { level: 1, name: /^Comet/ })).toBeVisible()
  await expect(visitor.page.locator('#query')).toContainText('utm_source=perch&utm_medium=social&utm_campaign=winter-members')
  await expect(visitor.page.locator('#referrer')).toHaveText(/^http:\/\/nmoor\.localhost:\d+\/$/)
  for (const network of networks) await expect.poll(async () => (await told(page, network, link.slug)).length).toBe(1)
  await expect.poll(() => outcomes(page, link)).toEqual([[1, 0, 0, 0], [1, 0, 0, 0], [1, 0, 0, 0]])
  expect(visitor.violations).toEqual([])
  await visitor.page.goBack()
  await expect(visitor.page).toHaveURL(`http://perch.localhost:${standins}/`)
  for (const network of networks) expect(await told(page, network, link.slug)).toHaveLength(1)
  await visitor.context.close()
})

test('where a link hides its referrer, the destination learns nothing and the networks still know which link it was', async ({ page, browser }) => {
  await signIn(page)
  const link = await linkWithPixels(page, 'off', { options: { referrer: 'hide' } })
  const visitor = await visit(browser)
  await visitor.page.goto(`http://perch.localhost:${standins}/`)
  await visitor.page.evaluate((to) => location.assign(to), link.shortUrl)
  await expect(visitor.page.locator('#arrival')).toBeVisible()
  await expect(visitor.page.locator('#referrer')).toHaveText('')
  for (const network of networks) await expect.poll(async () => (await told(page, network, link.slug)).length).toBe(1)
  await visitor.context.close()
})

test('a network that hangs holds a visitor up until the deadline and no longer', async ({ page, browser }) => {
  await signIn(page)
  const slow = await call<{ id: string }>(page, 'POST', 'pixels', {
    name: unique('Hanging'), network: 'image-pixel', reference: `http://fairlead.localhost:${standins}/slow.gif?n={random}&of=${Math.random()}`,
  })
  const link = await linkWithPixels(page, 'off', { options: { handoffDeadline: 300 } }, 'fairlead')
  await call(page, 'PATCH', `links/${link.linkId}`, { pixels: [...link.pixels, slow.id] })
  const visitor = await visit(browser)
  await visitor.page.goto(link.shortUrl, { waitUntil: 'commit' })
  await expect(visitor.page.locator('#arrival')).toBeVisible({ timeout: 5000 })
  await expect.poll(() => outcomes(page, { ...link, pixels: [...link.pixels, slow.id] })).toEqual([[1, 0, 0, 0], [0, 1, 0, 0]])
  await visitor.context.close()
})

test('a network that takes messages gets one, by a description that an owner has written', async ({ page, browser }) => {
  await signIn(page)
  const key = unique('messages').replace(' ', '-')
  await page.goto('/settings/ad-networks')
  await page.getByRole('button', { name: 'Add a network' }).click()
  const description = { key, name: key, takes: 'id', idPattern: 'M[0-9]{6}', event: 'visit', fires: { kind: 'beacon', address: `http://fairlead.localhost:${standins}/told?p={id}&on={link}` } }
  await page.getByLabel('Network description').fill(JSON.stringify({ ...description, fires: { kind: 'beacon', address: 'http://{id}.example/' } }))
  await page.getByRole('button', { name: 'Save description' }).click()
  await expect(page.getByRole('alert')).toContainText('a host without macros')
  await page.getByLabel('Network description').fill(JSON.stringify(description))
  await page.getByRole('button', { name: 'Save description' }).click()
  await expect(page.getByRole('cell', { name: key, exact: true })).toBeVisible()
  const pixel = await call<{ id: string }>(page, 'POST', 'pixels', { network: key, reference: 'M204417' })
  const link = await linkWithPixels(page, 'off', { pixels: [pixel.id] })
  const visitor = await visit(browser)
  await visitor.page.goto(link.shortUrl)
  await expect(visitor.page.locator('#arrival')).toBeVisible()
  await expect.poll(async () => (await told(page, 'fairlead', link.slug)).map((v) => v.pixel)).toEqual(['M204417'])
  await expect.poll(() => outcomes(page, { ...link, pixels: [pixel.id] })).toEqual([[1, 0, 0, 0]])
  expect(visitor.violations).toEqual([])
  await visitor.context.close()
})

test('who says yes is remembered and not asked again; before that nobody is told anything', async ({ page, browser }) => {
  await signIn(page)
  const link = await linkWithPixels(page, 'everybody')
  const visitor = await visit(browser, { locale: 'de-DE', extraHTTPHeaders: { 'X-Forwarded-For': '198.51.100.31' } })
  await visitor.page.goto(link.shortUrl)
  await expect(visitor.page.getByText(/^Dürfen sich .*Fairlead.* merken/)).toBeVisible()
  expect((await new AxeBuilder({ page: visitor.page }).analyze()).violations).toEqual([])
  for (const network of networks) expect(await told(page, network, link.slug)).toHaveLength(0)

  // By keyboard: the first answer is yes.
  await visitor.page.keyboard.press('Tab')
  await expect(visitor.page.getByRole('button', { name: 'Ja, einverstanden' })).toBeFocused()
  await visitor.page.keyboard.press('Enter')
  await expect(visitor.page.locator('#arrival')).toBeVisible()
  for (const network of networks) await expect.poll(async () => (await told(page, network, link.slug)).length).toBe(1)
  const cookie = (await visitor.context.cookies(link.shortUrl)).find((c) => c.name === 'cursus-consent')!
  expect([cookie.value, cookie.httpOnly, cookie.sameSite, cookie.path]).toEqual(['yes', true, 'Lax', '/'])
  expect(Math.round((cookie.expires - Date.now() / 1000) / 86_400)).toBe(180)

  await visitor.page.goto(link.shortUrl)
  await expect(visitor.page.locator('#arrival')).toBeVisible()
  for (const network of networks) await expect.poll(async () => (await told(page, network, link.slug)).length).toBe(2)
  expect(visitor.violations).toEqual([])
  await visitor.context.close()
})

test('who says no goes straight on, and nobody is told, then or later', async ({ page, browser }) => {
  await signIn(page)
  const link = await linkWithPixels(page, 'everybody')
  const visitor = await visit(browser, { viewport: { width: 390, height: 844 }, extraHTTPHeaders: { 'X-Forwarded-For': '198.51.100.32' } })
  await visitor.page.goto(link.shortUrl)
  const [yes, no] = [visitor.page.getByRole('button', { name: 'Yes, that’s fine' }), visitor.page.getByRole('button', { name: 'No, don’t remember' })]
  const [sizeOfYes, sizeOfNo] = [await yes.boundingBox(), await no.boundingBox()]
  expect([sizeOfYes!.width, sizeOfYes!.height]).toEqual([sizeOfNo!.width, sizeOfNo!.height])
  await no.click()
  await expect(visitor.page.locator('#arrival')).toBeVisible()
  await visitor.page.goto(link.shortUrl)
  await expect(visitor.page.locator('#arrival')).toBeVisible()
  await expect.poll(() => outcomes(page, link)).toEqual([[0, 0, 2, 0], [0, 0, 2, 0], [0, 0, 2, 0]])
  for (const network of networks) expect(await told(page, network, link.slug)).toHaveLength(0)
  await visitor.context.close()
})

test('a browser that says no for its owner is led on plainly', async ({ page, browser }) => {
  await signIn(page)
  const link = await linkWithPixels(page, 'off')
  const visitor = await visit(browser, { extraHTTPHeaders: { 'X-Forwarded-For': '198.51.100.33', 'Sec-GPC': '1' } })
  const response = await visitor.page.goto(link.shortUrl)
  expect(response!.request().redirectedFrom()!.url()).toBe(link.shortUrl)
  await expect.poll(() => outcomes(page, link)).toEqual([[0, 0, 0, 1], [0, 0, 0, 1], [0, 0, 0, 1]])
  for (const network of networks) expect(await told(page, network, link.slug)).toHaveLength(0)
  await visitor.context.close()
})

test('without scripts a picture still tells its network, the question can be answered, and the visitor arrives', async ({ page, browser }) => {
  await signIn(page)
  const link = await linkWithPixels(page, 'off')
  const options = { javaScriptEnabled: false, extraHTTPHeaders: { 'X-Forwarded-For': '198.51.100.34' } }
  const visitor = await visit(browser, options)
  await visitor.page.goto(link.shortUrl)
  await expect(visitor.page.locator('#arrival')).toBeVisible()
  expect(await told(page, 'fairlead', link.slug)).toHaveLength(1)
  await expect.poll(() => outcomes(page, link).then((all) => all.map(([fired, missed]) => [fired, missed]).toSorted())).toEqual([[0, 1], [0, 1], [1, 0]])
  await visitor.context.close()

  const asked = await linkWithPixels(page, 'everybody')
  const other = await visit(browser, options)
  await other.page.goto(asked.shortUrl)
  await other.page.getByRole('button', { name: 'Yes, that’s fine' }).click()
  await expect(other.page.locator('#arrival')).toBeVisible()
  expect(await told(page, 'fairlead', asked.slug)).toHaveLength(1)
  await other.context.close()
})

test('the whole effect: a pixel by one paste, a click to somebody else’s article, and later the advert on the feed', async ({ page, playwright, launchOptions }, info) => {
  await signIn(page)
  const link = await linkWithPixels(page, 'off', { pixels: [] })
  await page.goto('/audiences')
  await page.getByRole('button', { name: 'Set up a pixel' }).click()
  const id = `FL-${String(100_000 + Math.floor(Math.random() * 899_999))}`
  await page.getByLabel('Pixel ID or code').fill(`<!-- Fairlead pixel -->\n<img src="http://fairlead.localhost/px.gif?p=${id}" width="1" height="1" alt="">`)
  await expect(page.getByText(`Understood: Fairlead, id ${id}`)).toBeVisible()
  const name = unique('Comet watchers')
  await page.getByLabel('Name', { exact: true }).fill(name)
  await page.getByRole('button', { name: 'Add pixel' }).click()
  await expect(page.getByRole('heading', { level: 1, name })).toBeVisible()
  await expect(page.getByText('Not fired yet')).toBeVisible()

  await page.goto(`/links/${link.linkId}`)
  const sheet = page.getByRole('complementary', { name: 'Link' })
  await sheet.getByRole('button', { name: 'Change' }).click()
  await sheet.getByRole('combobox', { name: 'Pixels' }).fill(name)
  await page.getByRole('option', { name }).click()
  await sheet.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(sheet.getByRole('link', { name })).toBeVisible()

  const visitor = await playwright.chromium.launchPersistentContext(profileThatKeepsCookies(info.outputPath('visitor')), {
    ...launchOptions,
    extraHTTPHeaders: { 'X-Forwarded-For': '198.51.100.35' },
  })
  const feed = await visitor.newPage()
  await feed.goto(`http://fairlead.localhost:${standins}/`)
  await feed.getByLabel('Name').fill(name)
  await feed.getByLabel('Address contains').fill(`${new URL(link.shortUrl).host}/${link.slug}`)
  await feed.getByRole('button', { name: 'Define' }).click()
  await feed.goto(`http://perch.localhost:${standins}/`)
  await expect(feed.frameLocator('iframe').getByText('Nothing in particular')).toBeVisible()
  await feed.goto(link.shortUrl)
  await expect(feed.locator('#arrival')).toBeVisible()
  await feed.goto(`http://perch.localhost:${standins}/`)
  await expect(feed.frameLocator('iframe').locator('#advert')).toContainText(name)
  await visitor.close()

  await sheet.getByRole('link', { name }).click()
  await expect(page.getByText('Fairlead has about 1 visitor of the last 28 days, too few to use: the minimum is 100.')).toBeVisible()
})

/** The three views of retargeting; the second is a pixel's page. */
async function views(page: Page) {
  const { items } = (await (await page.request.get('/api/v1/pixels')).json()) as { items: Array<{ id: string; name: string }> }
  return ['/audiences', `/audiences/${items.find((p) => p.name === ofTheDemo[0])!.id}`, '/settings/handoff']
}

for (const colorScheme of ['light', 'dark'] as const)
  test(`Audiences and the handoff’s set-up are accessible in the ${colorScheme} scheme`, async ({ page }) => {
    await signIn(page)
    await page.emulateMedia({ colorScheme })
    for (const view of await views(page)) {
      await page.goto(view)
      await expect(page.locator('main').getByRole('heading', { level: 1 })).toBeVisible()
      await expect(page.locator('[aria-busy]')).toHaveCount(0)
      expect((await new AxeBuilder({ page }).exclude('iframe').analyze()).violations, view).toEqual([])
    }
  })

test('Audiences and the handoff’s set-up fit a phone, and a viewer may only look', async ({ page }) => {
  await signIn(page, 'Priya Lindqvist')
  await page.setViewportSize({ width: 390, height: 844 })
  const all = await views(page)
  for (const view of all) {
    await page.goto(view)
    await expect(page.locator('main').getByRole('heading', { level: 1 })).toBeVisible()
    await expect(page.locator('[aria-busy]')).toHaveCount(0)
    expect(await page.evaluate(() => document.documentElement.scrollWidth), view).toBeLessThanOrEqual(390)
  }
  await page.goto(all[1]!)
  await expect(page.getByRole('heading', { name: 'Define an audience' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Fire it once' })).toHaveCount(0)
})
