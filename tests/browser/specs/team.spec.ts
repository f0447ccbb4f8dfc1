import { expect, test } from '@playwright/test'
import { here, invite, join, linkTo, password } from './colleagues'
import { setBox, signInByHand, standins, stranger, unique } from './people'

test('a colleague is invited, joins and saves a first link; then is removed and out', async ({ page, browser }) => {
  const name = unique('Ines')
  const email = `${unique('ines').replace(' ', '-')}@harbour.example`
  await invite(page, email, 'We start on Monday.')
  await expect(page.getByRole('table').last()).toContainText(email)
  const colleague = await join(browser, page, email, name)

  await colleague.getByLabel('Destination').fill(`www.northmoor.localhost:${standins}/visit`)
  await colleague.getByLabel('Campaign', { exact: true }).fill('winter members')
  await colleague.keyboard.press('Enter')
  for (const box of await colleague.getByRole('checkbox', { name: /^Include / }).all())
    await setBox(box, (await box.getAttribute('aria-label')) === 'Include Perch')
  await colleague.getByRole('button', { name: 'Save one link' }).click()
  await expect(colleague.getByRole('button', { name: 'Copy all' })).toBeVisible()

  await page.goto('/settings/members')
  await expect(page.getByRole('combobox', { name: `Role of ${name}` })).toBeVisible()
  await expect(page.getByRole('button', { name: `Withdraw the invitation of ${email}` })).toBeHidden()
  await page.getByRole('combobox', { name: `Role of ${name}` }).click()
  await page.getByRole('option', { name: 'Viewer' }).click()
  await expect(page.getByRole('combobox', { name: `Role of ${name}` })).toHaveValue('Viewer')
  await page.getByRole('button', { name: `Remove ${name}` }).click()
  await page.getByRole('button', { name: 'Remove', exact: true }).click()
  await expect(page.getByText(email)).toBeHidden()
  await colleague.goto('/links')
  await expect(colleague).toHaveURL(/sign-in/)

  await page.goto('/settings/audit')
  const log = page.getByRole('table')
  for (const told of [`invited ${email}`, `${name} joined`, `changed the role of ${name}`, `removed ${name}`])
    await expect(log).toContainText(told)
  await page.getByLabel('Name or change').fill(name)
  await expect(log.getByRole('row')).toHaveCount(4)
})

test('a forgotten password is set anew, and the account’s page changes it and lists sign-ins', async ({ page, browser }) => {
  const email = `${unique('omar').replace(' ', '-')}@harbour.example`
  await invite(page, email)
  const colleague = await join(browser, page, email, 'Omar Vance')
  await colleague.goto('/account')
  await expect(colleague.getByRole('heading', { level: 1, name: 'Your account' })).toBeVisible()
  await expect(colleague.getByRole('region', { name: 'Where you’re signed in' })).toContainText('now, here')
  await colleague.getByLabel('Current password').fill(password)
  await colleague.getByLabel('New password').fill('omar vance')
  await colleague.getByRole('button', { name: 'Change password' }).click()
  await expect(colleague.getByText(/made of your own name/)).toBeVisible()

  const elsewhere = await (await stranger(browser)).newPage()
  await elsewhere.goto('/sign-in')
  await elsewhere.getByRole('link', { name: 'Forgotten your password?' }).press('Enter')
  await elsewhere.getByLabel('E-mail').fill(email)
  await elsewhere.getByRole('button', { name: 'Send link' }).press('Enter')
  await expect(elsewhere.getByText(/an e-mail is on its way/)).toBeVisible()
  await elsewhere.goto(here(await linkTo(page, email, 'Set a new Cursus password')))
  await elsewhere.locator('input[type=password]').fill('three owls in a barn')
  await elsewhere.getByRole('button', { name: 'Save password' }).press('Enter')
  await elsewhere.getByRole('link', { name: 'Sign in' }).press('Enter')
  await elsewhere.getByLabel('E-mail').fill(email)
  await elsewhere.locator('input[type=password]').fill('three owls in a barn')
  await elsewhere.getByRole('button', { name: 'Sign in', exact: true }).press('Enter')
  await elsewhere.waitForURL('**/send')
  await colleague.goto('/links')
  await expect(colleague).toHaveURL(/sign-in/)

  await elsewhere.goto('/account')
  await elsewhere.getByRole('button', { name: 'Delete account' }).click()
  await elsewhere.getByLabel('Your password').fill('three owls in a barn')
  await elsewhere.getByRole('button', { name: 'Delete account for good' }).click()
  await elsewhere.waitForURL('**/sign-in')
})

test('viewers and editors see members, and neither invitations nor the audit log', async ({ page }) => {
  await signInByHand(page, 'Tobias Finch')
  await page.goto('/settings/members')
  await expect(page.getByRole('table')).toContainText('Maren Holloway')
  await expect(page.getByText('Invite people')).toBeHidden()
  await expect(page.getByRole('button', { name: /^Remove / })).toBeHidden()
  await page.goto('/settings/audit')
  await expect(page.getByText('Only owners can see')).toBeVisible()
})

test('a new client’s workspace is set up as the present one, has addresses of its own, and is switched to by keyboard', async ({ page, browser }) => {
  const email = `${unique('elin').replace(' ', '-')}@harbour.example`
  await invite(page, email, undefined, 'Owner')
  const agency = await join(browser, page, email, unique('Elin'))
  const client = unique('Harbour Museum')
  await agency.goto('/workspaces')
  const form = agency.getByRole('form', { name: 'New workspace' })
  await form.getByLabel('Name').fill(client)
  await form.getByRole('combobox', { name: 'Set up as' }).click()
  await agency.getByRole('option', { name: 'Northmoor Observatory' }).click()
  await form.getByRole('button', { name: 'Create workspace' }).click()
  await agency.waitForURL(/\/w\/harbour-museum-.*\/send$/)
  await expect(agency.getByRole('button', { name: `Workspace: ${client}. Switch` })).toBeVisible()
  await agency.goto(new URL('settings/channels', agency.url()).href)
  await expect(agency.getByRole('table').first()).toContainText('Guildhall')

  // Two tabs show two workspaces.
  const other = await agency.context().newPage()
  await other.goto('/w/northmoor-observatory/links')
  await expect(other.getByText(/^[\d,]+ links$/)).not.toHaveText('0 links')
  await agency.goto(new URL('../links', agency.url()).href)
  await expect(agency.getByText('No links yet')).toBeVisible()

  const clientLinks = agency.url()

  await agency.keyboard.press('/')
  await agency.getByLabel('Paste an address or search').fill('northmoor obs')
  await expect(agency.getByRole('option', { name: 'Go to Northmoor Observatory' })).toBeVisible()
  await agency.keyboard.press('Enter')
  await agency.waitForURL('**/w/northmoor-observatory/send')

  // Put away, and brought back.
  await other.goto(new URL('settings/workspace', clientLinks).href)
  await other.getByRole('button', { name: 'Archive workspace' }).press('Enter')
  await expect(other.getByText(`${client} is archived`)).toBeVisible()
  await agency.goto('/workspaces')
  await expect(agency.getByRole('table').filter({ hasText: 'Archived' })).toContainText(client)
  await other.getByRole('button', { name: 'Restore workspace' }).press('Enter')
  await expect(other.getByText(`${client} is archived`)).toBeHidden()

  await agency.goto('/workspaces')
  const row = agency.getByRole('row').filter({ hasText: 'Northmoor Observatory' })
  await expect(row).toContainText(/[\d,]+ before/)
  await agency.goto('/w/no-such-place/links')
  await expect(agency.getByText('There is no workspace at this address')).toBeVisible()
})
