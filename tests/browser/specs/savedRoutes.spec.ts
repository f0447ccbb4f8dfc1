import AxeBuilder from '@axe-core/playwright'
import { expect, test, type APIRequestContext } from '@playwright/test'
import { call, led, phone, signIn, stranger, unique } from './people'

test('a route is saved in Settings by keyboard, given to links in one go, and changed for all of them and back', async ({ page, browser }) => {
  await signIn(page)
  const title = unique('Evening')
  const links = await Promise.all(
    ['perch', 'guildhall'].map((channel) =>
      call<{ slug: string }>(page, 'POST', 'links', { destination: 'https://northmoor.example/evening', title, campaign: 'winter-members', channel }),
    ),
  )
  const visitor = (await stranger(browser)).request

  await page.goto('/settings/routes')
  const name = unique('Phones')
  await page.getByRole('button', { name: 'New route' }).focus()
  await page.keyboard.press('Enter')
  const fresh = page.getByRole('dialog', { name: 'New route' })
  await expect(fresh.getByLabel('Name', { exact: true })).toBeFocused()
  await page.keyboard.type(name)
  await fresh.getByRole('button', { name: 'Add a rule' }).focus()
  await page.keyboard.press('Enter')
  await expect(fresh.getByLabel('On', { exact: true })).toBeFocused()
  await page.keyboard.type('Pho')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await fresh.getByLabel('Address of page 1').focus()
  await page.keyboard.type('https://northmoor.example/app')
  await page.keyboard.press('Enter')
  const route = page.getByRole('dialog', { name })
  await expect(route.getByRole('listitem').first()).toContainText('on a phone')
  await route.getByRole('button', { name: 'Done' }).focus()
  await page.keyboard.press('Enter')

  await page.goto(`/links?query=${encodeURIComponent(title)}&view=flat`)
  await page.getByRole('checkbox', { name: 'Select all matching links' }).check()
  await page.getByRole('button', { name: 'Rules', exact: true }).click()
  await page.getByRole('combobox', { name: 'Saved route' }).click()
  await page.getByRole('option', { name }).click()
  await expect(page.getByText('2 links given a saved route')).toBeVisible()
  await expectAll(visitor, links, '/app?')

  await page.goto('/settings/routes')
  await page.getByRole('button', { name: `Edit the rules of ${name}` }).click()
  await expect(route.getByText('2 links follow this route and will change with it.')).toBeVisible()
  await route.getByRole('button', { name: 'Actions for rule 1, on a phone' }).click()
  await page.getByRole('menuitem', { name: 'Edit' }).click()
  await route.getByLabel('Address of page 1').fill('https://northmoor.example/new-app')
  await route.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(route.getByRole('listitem').first()).toContainText('new-app')
  await expectAll(visitor, links, '/new-app?')

  await page.setViewportSize({ width: 390, height: 844 })
  await page.emulateMedia({ colorScheme: 'dark' })
  const restore = route.getByRole('button', { name: 'Restore version 1' })
  await expect(restore).toBeVisible()
  const { violations } = await new AxeBuilder({ page }).analyze()
  expect(violations.filter((v) => v.impact === 'serious' || v.impact === 'critical').map((v) => v.id)).toEqual([])
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390)
  await restore.click()
  await expect(route.getByRole('listitem').first()).toContainText('northmoor.example/app')
  await expectAll(visitor, links, '/app?')
})

/** A change is live within a second. */
async function expectAll(visitor: APIRequestContext, links: Array<{ slug: string }>, page: string) {
  for (const { slug } of links) await expect.poll(() => led(visitor, slug, phone)).toContain(page)
}
