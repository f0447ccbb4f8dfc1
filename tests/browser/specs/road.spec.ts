import { expect, test, type Browser } from '@playwright/test'
import { address, chooseCampaign, signIn, signInByHand, standins, stranger, tick, unique } from './people'

/** Posts a link to a network's feed as a stranger and follows it there. */
async function postAndFollow(browser: Browser, network: string, shortUrl: string) {
  const visitor = await stranger(browser)
  const feed = await visitor.newPage()
  await feed.goto(`http://${network}.localhost:${standins}/`)
  await feed.getByLabel('Say something').fill(`Look up tonight: ${shortUrl}`)
  await feed.getByRole('button', { name: 'Post' }).click()
  await feed.getByRole('link', { name: shortUrl }).first().click()
  await expect(feed.getByRole('heading', { name: 'Geminids night' })).toBeVisible()
  await expect(feed.locator('#query')).toContainText(`utm_source=${network}`)
  await visitor.close()
}

test('the whole road: send to four channels, two visits from feeds and one test-open, Compare shows exactly the two', async ({ page, browser, context }) => {
  await signIn(page)
  const campaign = unique('Road')
  await page.getByLabel('Destination').fill(`www.northmoor.localhost:${standins}/events/geminids-night`)
  await chooseCampaign(page, campaign)
  await expect(page.locator('#content').getByText(campaign.toLowerCase().replace(' ', '-'))).toBeVisible()
  await tick(page, 'Guildhall', 'Perch', 'Hearthside', 'Longreel')
  await expect(page.getByLabel('free')).toHaveCount(4)
  await page.getByRole('button', { name: 'Save 4 links' }).click()

  await page.waitForURL('**/posts/*')
  await expect(page.getByRole('listitem')).toHaveCount(4)
  await page.getByRole('button', { name: 'Copy the address for Perch' }).click()
  const perch = await page.evaluate(() => navigator.clipboard.readText())
  await page.getByRole('button', { name: 'Copy the address for Guildhall' }).click()
  const guildhall = await page.evaluate(() => navigator.clipboard.readText())

  await postAndFollow(browser, 'perch', perch)
  await postAndFollow(browser, 'guildhall', guildhall)
  const [tested] = await Promise.all([
    context.waitForEvent('page'),
    page.getByRole('link', { name: 'Open without counting: Hearthside' }).click(),
  ])
  await expect(tested.locator('#query')).toContainText('utm_source=hearthside')
  await expect(tested.locator('#query')).not.toContainText('cursus')
  await tested.close()

  // The hand-out counts along without a reload.
  await expect(page.getByText('4 placements · 2 clicks')).toBeVisible()

  await page.getByRole('link', { name: 'Compare' }).click()
  await page.getByRole('button', { name: 'Campaign: all campaigns' }).click()
  await page.getByRole('menuitem', { name: campaign }).click()
  await expect(page.getByText('2 clicks by about 2 visitors')).toBeVisible()
  await expect(page.getByText('excluded: 1 team visit')).toBeVisible()
  const lanes = page.getByRole('region', { name: 'Lanes' }).getByRole('row')
  await expect(lanes.filter({ hasText: 'Perch' })).toContainText('50%')
  await expect(lanes.filter({ hasText: 'Guildhall' })).toContainText('50%')
  await expect(lanes.filter({ hasText: 'Hearthside' })).toContainText('0%')
  await expect(page).toHaveURL(/campaign=road-/)
})

test('a signed-in browser is known on the short domain, and its visits are left out', async ({ page, context }) => {
  await signInByHand(page, 'Maren Holloway')
  const cookies = await context.cookies(address.replace('localhost', 'nmoor.localhost'))
  expect(cookies.map((c) => c.name)).toContain('cursus-team')
})

test('the referrer of a visit from a feed is the network', async ({ page, browser }) => {
  await signIn(page)
  await page.getByLabel('Destination').fill(`www.northmoor.localhost:${standins}/events/geminids-night`)
  const campaign = unique('Referrer')
  await chooseCampaign(page, campaign)
  await tick(page, 'Perch')
  await page.getByRole('button', { name: 'Save one link' }).click()
  await page.waitForURL('**/posts/*')
  await page.getByRole('button', { name: 'Copy the address for Perch' }).click()
  await postAndFollow(browser, 'perch', await page.evaluate(() => navigator.clipboard.readText()))
  await page.goto(`/compare?by=referrer&campaign=${campaign.toLowerCase().replace(' ', '-')}`)
  await expect(page.getByRole('region', { name: 'Lanes' })).toContainText('perch.localhost')
})
