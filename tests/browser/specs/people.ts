import { expect, type APIRequestContext, type Browser, type BrowserContext, type Locator, type Page } from '@playwright/test'

export const address = process.env.CURSUS_ADDRESS!
export const standins = process.env.CURSUS_STANDINS_PORT!

const sessions = new Map<string, Awaited<ReturnType<BrowserContext['cookies']>>>()

/** A demo member with a browser that signed in before: begins at the first view. */
export async function signIn(page: Page, who = 'Maren Holloway') {
  const known = sessions.get(who)
  if (!known) {
    await signInByHand(page, who)
    sessions.set(who, await page.context().cookies())
    return
  }
  await page.context().addCookies(known)
  await page.goto('/send')
  await expect(page.getByRole('heading', { level: 1, name: 'New post' })).toBeVisible()
}

/** Signs a demo member in by the button on the sign-in page, and waits for the first view. */
export async function signInByHand(page: Page, who: string) {
  await page.goto('/')
  await page.getByRole('button', { name: new RegExp(who) }).click()
  await page.waitForURL('**/send')
  await expect(page.getByRole('heading', { level: 1, name: 'New post' })).toBeVisible()
}

/** Calls the API as the signed-in member, and expects success, or exactly this status. */
export async function call<T>(page: Page, method: 'POST' | 'PATCH' | 'PUT', path: string, data?: unknown, status?: number): Promise<T> {
  const { csrfToken } = (await (await page.request.get('/api/v1/session')).json()) as { csrfToken: string }
  const response = await page.request.fetch(`/api/v1/${path}`, { method, data, headers: { 'X-CSRF-Token': csrfToken } })
  expect(response.ok(), await response.text()).toBe(true)
  if (status) expect(response.status()).toBe(status)
  return (await response.json()) as T
}

/** Somebody who is not of the team: a browser that has never signed in. */
export const stranger = (browser: Browser): Promise<BrowserContext> =>
  browser.newContext({ extraHTTPHeaders: { 'X-Forwarded-For': `203.0.113.${++strangers}` } })

let strangers = 0

/** Chooses a campaign in the Send sheet by typing a part of its name. */
export async function chooseCampaign(page: Page, words: string) {
  await page.getByLabel('Campaign', { exact: true }).fill(words)
  await page.keyboard.press('Enter')
}

/** Sets a box that the page controls: it changes a moment after the click, which setChecked doesn't wait for. */
export async function setBox(box: Locator, wanted = true) {
  if ((await box.isChecked()) !== wanted) await box.click()
  await expect(box).toBeChecked({ checked: wanted })
}

/** Ticks exactly these channels. */
export async function tick(page: Page, ...channels: string[]) {
  await page.getByRole('checkbox', { name: /^Include / }).first().waitFor()
  for (const box of await page.getByRole('checkbox', { name: /^Include / }).all()) {
    const name = (await box.getAttribute('aria-label'))!.replace('Include ', '')
    await setBox(box, channels.includes(name))
  }
}

/** A name that no other test uses. */
export const unique = (name: string) => `${name} ${Math.random().toString(36).slice(2, 8)}`

/** What a phone calls itself. */
export const phone = 'Mozilla/5.0 (Linux; Android 15; Mobile) AppleWebKit/537.36 Person/7'

/** Where somebody of the public is led. */
export async function led(request: APIRequestContext, slug: string, agent: string) {
  const port = new URL(process.env.CURSUS_ADDRESS!).port
  const headers = { Host: 'nmoor.localhost', 'User-Agent': agent }
  return (await request.get(`http://127.0.0.1:${port}/${slug}`, { maxRedirects: 0, headers })).headers().location
}
