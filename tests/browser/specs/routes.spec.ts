import AxeBuilder from '@axe-core/playwright'
import { expect, test } from '@playwright/test'
import { call, chooseCampaign, led, phone, signIn, stranger, tick, unique } from './people'

const computer = 'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 Person/7'

test('phones are led elsewhere by a rule that is added, switched off and removed in the sheet, by keyboard alone', async ({ page, browser }) => {
  await signIn(page)
  const link = await call<{ id: string; slug: string }>(page, 'POST', 'links', {
    destination: 'https://northmoor.example/evening',
    title: unique('Evening'),
    campaign: 'winter-members',
    channel: 'perch',
  })
  const visitor = (await stranger(browser)).request
  await page.goto(`/links/${link.id}`)
  const leads = page.getByRole('region', { name: 'Where it leads' })
  await leads.getByRole('button', { name: 'Add a rule' }).focus()
  await page.keyboard.press('Enter')
  const form = leads.getByRole('form', { name: 'Rule' })
  await expect(form.getByLabel('On', { exact: true })).toBeFocused()
  await page.keyboard.type('Pho')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await form.getByLabel('Address of page 1').focus()
  await page.keyboard.type('https://northmoor.example/evening/app')
  await page.keyboard.press('Enter')
  await expect(leads.getByRole('listitem').first()).toContainText('on a phone')
  expect(await led(visitor, link.slug, phone)).toContain('/evening/app?utm_source=perch')
  expect(await led(visitor, link.slug, computer)).toContain('/evening?utm_source=perch')

  await leads.getByRole('button', { name: 'Actions for rule 1, on a phone' }).focus()
  await page.keyboard.press('Enter')
  await page.getByRole('menuitem', { name: 'Switch off' }).focus()
  await page.keyboard.press('Enter')
  await expect(leads.getByText('off', { exact: true })).toBeVisible()
  expect(await led(visitor, link.slug, phone)).toContain('/evening?')

  await page.getByRole('tab', { name: 'History' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByText('Rules:').first()).toBeVisible()
})

test('a rule without a condition is refused beside its fields, and a split is shared anew; both fit a phone and are accessible', async ({ page }) => {
  await signIn(page)
  const link = await call<{ id: string }>(page, 'POST', 'links', { destination: 'https://northmoor.example/join', title: unique('Join') })
  await page.goto(`/links/${link.id}`)
  const leads = page.getByRole('region', { name: 'Where it leads' })
  await leads.getByRole('button', { name: 'Add a rule' }).click()
  await leads.getByLabel('Address of page 1').fill('https://northmoor.example/join/now')
  await leads.getByRole('button', { name: 'Save' }).click()
  await expect(leads.getByRole('alert')).toContainText('no condition')
  await leads.getByRole('button', { name: 'Cancel' }).click()

  await leads.getByRole('button', { name: 'Split over several pages' }).click()
  await leads.getByLabel('Address of page 1').fill('https://northmoor.example/members')
  await leads.getByLabel('Address of page 2').fill('https://northmoor.example/join')
  await leads.getByRole('button', { name: 'Add a page' }).click()
  await expect(leads.getByLabel('Share of page 3', { exact: true })).toHaveValue('33%')
  await leads.getByLabel('Address of page 3').fill('https://northmoor.example/gift')
  await page.setViewportSize({ width: 390, height: 844 })
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme })
    const { violations } = await new AxeBuilder({ page }).analyze()
    expect(violations.filter((v) => v.impact === 'serious' || v.impact === 'critical').map((v) => v.id)).toEqual([])
  }
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390)
  await leads.getByRole('button', { name: 'Save' }).click()
  await expect(leads.getByRole('listitem').last()).toContainText('34%northmoor.example/members')
})

test('a split for all rows is set in Send, one row goes without it, and its link says who got which page', async ({ page, browser }) => {
  await signIn(page)
  await page.getByLabel('Destination').fill('northmoor.example/join-now')
  await chooseCampaign(page, 'winter')
  await tick(page, 'Perch', 'Hearthside')
  await page.getByRole('button', { name: 'Options', exact: true }).click()
  await page.getByRole('button', { name: 'Split all rows over several pages' }).click()
  const form = page.getByRole('form', { name: 'Pages for everyone else' })
  await form.getByLabel('Address of page 1').fill('northmoor.example/yearly')
  await form.getByLabel('Address of page 2').fill('northmoor.example/monthly')
  await page.keyboard.press('Enter')
  const rules = page.getByRole('dialog', { name: 'Where all rows lead' })
  await expect(rules.getByRole('listitem')).toContainText('50%northmoor.example/yearly50%northmoor.example/monthly')
  await rules.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByText('split over 2 pages')).toBeVisible()
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Options for Hearthside' }).click()
  await page.getByRole('button', { name: 'No rules for Hearthside' }).click()
  const made = page.waitForResponse((answer) => answer.url().endsWith('/api/v1/posts') && answer.request().method() === 'POST')
  await page.getByRole('button', { name: 'Save 2 links' }).click()
  const post = (await (await made).json()) as { placements: Array<{ link: { id: string; slug: string } }> }
  const [split, plain] = post.placements.map((placement) => placement.link)
  const visitor = (await stranger(browser)).request
  expect(await led(visitor, split!.slug, computer)).toMatch(/\/(yearly|monthly)\?utm_source=perch/)
  expect(await led(visitor, plain!.slug, computer)).toContain('/join-now?utm_source=hearthside')

  await page.goto(`/links/${split!.id}`)
  const leads = page.getByRole('region', { name: 'Where it leads' })
  await expect(async () => {
    await page.reload()
    const people = leads.getByText(/^\d+ (person|people) since/)
    await people.waitFor()
    expect(await people.innerText()).toMatch(/^1 person/)
  }).toPass()
  await expect(leads.getByText('Too few people to check the split: 1 of at least 10.')).toBeVisible()
  await leads.getByRole('button', { name: 'Try it' }).click()
  await leads.getByRole('button', { name: 'Try it' }).click()
  await expect(leads.getByRole('status', { name: 'What they get' })).toContainText('Everyone else: shared by50%northmoor.example/yearly50%northmoor.example/monthly')
})
