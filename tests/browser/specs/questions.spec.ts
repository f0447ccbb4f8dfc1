import { readFile } from 'node:fs/promises'
import { expect, test, type Page } from '@playwright/test'
import { signIn } from './people'

/** Chooses what to compare by: two interactions, from any question to the next. */
async function compareBy(page: Page, words: string) {
  await page.getByRole('button', { name: /^Compare by/ }).click()
  await page.getByRole('menuitem', { name: words, exact: true }).click()
}

const lanes = (page: Page) => page.getByRole('region', { name: 'Lanes' })

test('every question is two interactions away, and its lanes add up', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare?campaign=winter-members')
  for (const [words, row] of [
    ['source', /guildhall/],
    ['medium', /social/],
    ['post', /Orion for beginners/],
    ['variant', /picture/],
    ['tag', /\w/],
    ['link', /nmoor\.localhost/],
    ['network clicked on', /Guildhall/],
    ['channel (own or other)', /Own channel/],
    ['country', /United Kingdom/],
    ['device', /Phone/],
    ['browser', /\w/],
    ['operating system', /\w/],
    ['hour', /\d\d:00/],
    ['weekday', /Monday/],
  ] as const) {
    await compareBy(page, words)
    await expect(lanes(page).getByRole('rowheader', { name: row }).first(), words).toBeVisible()
    if (words === 'tag') continue
    const figures = page.getByRole('region', { name: 'All figures' })
    const all = Number((await figures.getByRole('row', { name: /^All/ }).getByRole('cell').first().textContent())!.replace(/\D/g, ''))
    const each = await figures.locator('tbody td:nth-child(2)').allTextContents()
    expect(
      each.reduce((sum, text) => sum + Number(text.replace(/\D/g, '')), 0),
      words,
    ).toBe(all)
  }
})

test('how long posts live is said for each channel, the shortest last', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare?period=last-90')
  const lives = page.getByRole('region', { name: 'Post lifespan' })
  await expect(lives.getByText(/Longest on .*, where half of the clicks come within .*; shortest on Text message, within \d hours\./)).toBeVisible()
  await expect(lives.getByRole('row').last()).toContainText('Text message')
  await page.goto('/compare?by=country')
  await expect(lanes(page)).toBeVisible()
  await expect(lives, 'a country has no posts').toHaveCount(0)
})

test('a post shows its placements as lanes, how they keep pace, and where and when it was clicked', async ({ page }) => {
  await signIn(page)
  const post = await page.evaluate(async () => {
    const { items } = (await (await fetch('/api/v1/posts?query=ten+reasons')).json()) as { items: { id: string; title: string }[] }
    return items.at(-1)!
  })
  await page.goto(`/posts/${post.id}`)
  await expect(page.getByRole('heading', { level: 1, name: post.title })).toBeVisible()
  const placements = page.getByRole('region', { name: 'Lanes' }).getByRole('row')
  await expect(placements.nth(1)).toBeVisible()
  await expect(
    page
      .getByRole('region', { name: 'Pace' })
      .getByText(/\d+ of the last \d+/)
      .first(),
  ).toBeVisible()
  await page.getByRole('button', { name: 'Export pace' }).press('Enter')
  const file = page.waitForEvent('download')
  await page.getByRole('menuitem', { name: 'As SVG' }).press('Enter')
  expect((await file).suggestedFilename()).toBe(`pace of ${post.title}.svg`)
  await expect(page.getByRole('region', { name: 'Where it was clicked' })).toContainText(/came from another channel/)
  await expect(page.getByRole('region', { name: 'Weekdays and hours' }).getByText(/Most came on/)).toBeVisible()
  await placements.nth(1).getByRole('link').click()
  await expect(page).toHaveURL(new RegExp(`post=${post.id}`))
})

test('a campaign shows its posts and channels, from the address bar by keyboard alone', async ({ page }) => {
  await signIn(page)
  await page.goto('/links')
  await page.locator('[data-link-row]').first().waitFor()
  await page.keyboard.press('Control+k')
  await page.keyboard.type('winter mem')
  // What was found for the first letters alone is there for a moment.
  await expect(page.getByRole('option').first()).toHaveText(/Winter members/)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { level: 1, name: 'Winter members' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'Posts' }).getByRole('row', { name: /Orion for beginners/ })).toBeVisible()
  await expect(page.getByRole('region', { name: 'Channels' }).getByRole('row', { name: /Guildhall/ })).toBeVisible()
  await page.goto('/campaigns/nobody-knows-it')
  await expect(page.getByText('There is no campaign “nobody-knows-it”')).toBeVisible()
})

test('columns are chosen, sorted by, and held in the address', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare?period=last-90')
  const figures = page.getByRole('region', { name: 'All figures' })
  await figures.getByRole('button', { name: 'Columns' }).click()
  // The address holds what is chosen, and the box follows it a moment later.
  const visitors = page.getByRole('checkbox', { name: 'Visitors' })
  await visitors.click()
  await expect(visitors).not.toBeChecked()
  await page.keyboard.press('Escape')
  await expect(figures.getByRole('columnheader', { name: 'Visitors' })).toHaveCount(0)
  await figures.getByRole('button', { name: 'Placements' }).click()
  await page.reload()
  await expect(figures.getByRole('columnheader', { name: 'Placements' })).toHaveAttribute('aria-sort', 'descending')
  await expect(figures.getByRole('columnheader', { name: 'Visitors' })).toHaveCount(0)
})

test('single clicks are taken away, one a line', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare?campaign=school-visits&period=last-90')
  const all = page.getByRole('region', { name: 'All figures' }).getByRole('row', { name: /^All/ }).getByRole('cell').first()
  const clicks = Number((await all.textContent())!.replace(/\D/g, ''))
  await page.getByRole('button', { name: 'Export', exact: true }).click()
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('menuitem', { name: 'Individual clicks as NDJSON' }).click()])
  const lines = (await readFile(await file.path(), 'utf8')).trimEnd().split('\n')
  expect(lines).toHaveLength(clicks)
  expect(JSON.parse(lines[0]!)).toMatchObject({ kind: 'person', campaign: 'school-visits' })
})

test('the answer is taken away as one page and as pictures', async ({ page }) => {
  await signIn(page)
  await page.goto('/compare?campaign=school-visits&period=last-90')
  for (const [words, name, begin] of [
    ['One page as PDF', /page\.pdf$/, '%PDF-'],
    ['Lanes as SVG', /lanes\.svg$/, '<?xml'],
    ['Course as PNG', /course\.png$/, '\x89PNG'],
  ] as const) {
    await page.getByRole('button', { name: 'Export', exact: true }).click()
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('menuitem', { name: words }).click()])
    expect(file.suggestedFilename()).toMatch(name)
    expect((await readFile(await file.path(), 'latin1')).slice(0, begin.length)).toBe(begin)
  }
})
