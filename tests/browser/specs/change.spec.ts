import { expect, test, type Page } from '@playwright/test'
import { address, call, signIn, standins, unique } from './people'

const port = new URL(address).port

/** Makes a link by the API. */
const makeLink = (page: Page, slug: string, more: object = {}) =>
  call<{ id: string; slug: string }>(page, 'POST', 'links', {
    slug,
    destination: `http://www.northmoor.localhost:${standins}/${slug}`,
    title: slug,
    ...more,
  })

const words = (name: string) => unique(name).replace(' ', '-')

test('of two who change one link the second sees both, and nothing is overwritten unseen', async ({ page, browser }) => {
  await signIn(page)
  const link = await makeLink(page, words('both'))
  await page.goto(`/links/${link.id}`)
  await page.getByRole('button', { name: 'Change', exact: true }).click()
  await page.getByLabel('Title', { exact: true }).fill('As Maren types it')

  const colleague = await (await browser.newContext({ baseURL: address })).newPage()
  await signIn(colleague, 'Tobias Finch')
  await colleague.goto(`/links/${link.id}`)
  await colleague.getByRole('button', { name: 'Change', exact: true }).click()
  await colleague.getByLabel('Note for colleagues').fill('Checked by Tobias')
  await colleague.getByRole('button', { name: 'Save', exact: true }).click()
  // The field he types into holds the same words: only as a fact of the link are they saved.
  await expect(colleague.getByRole('definition').getByText('Checked by Tobias')).toBeVisible()
  await colleague.context().close()

  await page.getByRole('button', { name: 'Save', exact: true }).click()
  const both = page.getByRole('alertdialog', { name: 'Changed by someone else' })
  await expect(both).toContainText('Tobias Finch has changed this link since you opened it')
  await expect(both.getByRole('row', { name: /Note/ })).toContainText('Checked by Tobias')
  await expect(both.getByRole('row', { name: /Title/ })).toContainText('As Maren types it')
  await both.getByRole('button', { name: 'Save my changes' }).click()
  await expect(page.getByRole('heading', { name: 'As Maren types it' })).toBeVisible()
  await expect(page.getByText('Checked by Tobias')).toBeVisible()
})

test('a link gets another short address, the one before leads on, and its history restores any version', async ({ page, request }) => {
  await signIn(page)
  const slug = words('autumn')
  const link = await makeLink(page, slug)
  await page.goto(`/links/${link.id}`)
  await page.getByRole('button', { name: 'Change', exact: true }).click()
  await page.getByLabel('Slug', { exact: true }).fill(`${slug}-2`)
  await page.getByLabel('Destination').fill(`www.northmoor.localhost:${standins}/elsewhere`)
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByRole('definition').getByText(`nmoor.localhost:${port}/${slug}`, { exact: true })).toBeVisible()
  const visit = async (path: string) =>
    (await request.get(`http://127.0.0.1:${port}/${path}`, { headers: { Host: 'nmoor.localhost' }, maxRedirects: 0 })).headers().location
  expect(await visit(slug)).toContain('/elsewhere')
  expect(await visit(`${slug}-2`)).toContain('/elsewhere')

  await page.getByRole('tab', { name: 'History' }).click()
  await expect(page.getByText(`Short address: nmoor.localhost/${slug} → nmoor.localhost/${slug}-2`)).toBeVisible()
  await page.getByRole('button', { name: 'Restore version 1' }).click()
  await expect(page.getByRole('button', { name: 'Restore version 2' })).toBeVisible()
  expect(await visit(slug)).toMatch(new RegExp(`/${slug}$`))
  expect(await visit(`${slug}-2`)).toMatch(new RegExp(`/${slug}$`))
})

test('a link is put into the archive and out of it, and a new one is made like it', async ({ page }) => {
  await signIn(page)
  const link = await makeLink(page, words('relic'), { note: 'Kept for the record' })
  await page.goto(`/links/${link.id}`)
  const more = async (item: string) => {
    await page.getByRole('button', { name: 'More actions' }).click()
    await page.getByRole('menuitem', { name: item }).click()
  }
  await more('Archive')
  await expect(page.getByText(/^Archived on/)).toBeVisible()
  await page.goto(`/links?query=${link.slug}`)
  await expect(page.getByText('No links match')).toBeVisible()
  await page.goto(`/links/${link.id}?query=${link.slug}&state=archived`)
  await more('Unarchive')
  await expect(page.getByText(/^Archived on/)).toBeHidden()
  await more('Duplicate')
  await expect(page).not.toHaveURL(new RegExp(link.id))
  await expect(page.getByText('Kept for the record')).toBeVisible()
})

test('what was typed survives a server that does not answer', async ({ page }) => {
  await signIn(page)
  const link = await makeLink(page, words('calm'))
  await page.goto(`/links/${link.id}`)
  await page.getByRole('button', { name: 'Change', exact: true }).click()
  await page.getByLabel('Note for colleagues').fill('Not lost')
  await page.route('**/api/v1/**', (route) => route.abort())
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'Can’t reach Cursus' }).first()).toBeVisible()
  await expect(page.getByLabel('Note for colleagues')).toHaveValue('Not lost')
  await page.unroute('**/api/v1/**')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByRole('definition').filter({ hasText: 'Not lost' })).toBeVisible()
})
