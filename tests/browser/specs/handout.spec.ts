import { expect, test, type Page } from '@playwright/test'
import { signIn } from './people'

const clipboard = (page: Page) => page.evaluate(() => navigator.clipboard.readText())

async function openHandOut(page: Page) {
  await signIn(page)
  await page.goto('/links?query=hundred+meteors')
  await page.getByRole('heading', { level: 2 }).getByRole('link').first().click()
  await expect(page.getByRole('button', { name: 'Copy all' })).toBeVisible()
}

test('a link is copied as address, HTML, Markdown and rich text', async ({ page }) => {
  await openHandOut(page)
  await page.getByRole('button', { name: 'Copy the address for Perch' }).click()
  const address = await clipboard(page)
  expect(address).toMatch(/^http:\/\/nmoor\.localhost:\d+\/geminids-perch$/)
  for (const [way, expected] of [
    ['As HTML', `<a href="${address}">Geminids night: dinner under a hundred meteors</a>`],
    ['As Markdown', `[Geminids night: dinner under a hundred meteors](${address})`],
    ['As rich text', 'Geminids night: dinner under a hundred meteors'],
  ] as const) {
    await page.getByRole('button', { name: 'More ways to copy for Perch' }).click()
    await page.getByRole('menuitem', { name: way }).click()
    await expect.poll(() => clipboard(page)).toBe(expected)
  }
})

test('all links are copied as lines, as a table or as addresses only', async ({ page }) => {
  await openHandOut(page)
  for (const [way, line] of [
    ['As lines', /^Perch: http:\S+geminids-perch$/m],
    ['As a table', /^Night Letter · button\thttp:\S+$/m],
    ['As CSV', /^Poster,,http:\S+geminids-poster,http:\S+utm_source=poster\S*$/m],
    ['Addresses only', /^http:\S+geminids-poster$/m],
  ] as const) {
    await page.getByRole('button', { name: 'Copy all' }).click()
    await page.getByRole('menuitem', { name: way }).click()
    await expect.poll(() => clipboard(page)).toMatch(line)
    // A CSV has a line of headings, and ends its last line too.
    expect((await clipboard(page)).split('\n')).toHaveLength(way === 'As CSV' ? 9 : 7)
  }
})

test('a text that is too long for its channel says by how much', async ({ page }) => {
  await openHandOut(page)
  const text = page.getByLabel('Text for Perch', { exact: true })
  await expect(text).toHaveValue(/^Geminids night: .* http:\S+geminids-perch$/)
  await text.fill('x'.repeat(312))
  await expect(page.getByText('12 characters too long for Perch')).toBeVisible()
  await text.fill('A short word')
  await expect(page.getByText('12 of 300')).toBeVisible()
  await page.getByRole('button', { name: 'Copy the text for Perch' }).click()
  await expect.poll(() => clipboard(page)).toBe('A short word')
})
