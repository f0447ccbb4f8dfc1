import { expect, type Browser, type Page } from '@playwright/test'
import { address, signIn, standins, stranger } from './people'

const mailbox = `http://mailbox.localhost:${standins}/`
export const password = 'moss on old stones'

/** The newest e-mail to an address, and where its link leads. The stand-in sends within seconds. */
export async function linkTo(page: Page, email: string, subject: string | RegExp): Promise<string> {
  const row = page.getByRole('row').filter({ hasText: email }).filter({ hasText: subject }).first()
  await expect(async () => {
    await page.goto(mailbox)
    await expect(row).toBeVisible({ timeout: 1000 })
  }).toPass()
  await row.getByRole('link').click()
  const link = page.frameLocator('iframe').getByRole('link').last()
  return (await link.getAttribute('href'))!
}

/** Opens a link of an e-mail here: it names the port that the application was started on. */
export const here = (link: string) => address + new URL(link).pathname + new URL(link).hash

export async function invite(page: Page, email: string, message?: string, role = 'Editor') {
  await signIn(page)
  await page.goto('/settings/members')
  await page.getByLabel('E-mail addresses').fill(email)
  await page.getByRole('combobox', { name: 'Role', exact: true }).click()
  await page.getByRole('option', { name: role }).click()
  if (message) await page.getByLabel('Message (optional)').fill(message)
  await page.getByRole('button', { name: 'Invite', exact: true }).click()
  await expect(page.getByText(`Invitation on its way to ${email}`)).toBeVisible()
}

/** A colleague's browser, come in by the invitation. */
export async function join(browser: Browser, page: Page, email: string, name: string) {
  const link = await linkTo(page, email, 'invites you to')
  const colleague = await (await stranger(browser)).newPage()
  await colleague.goto(here(link))
  await colleague.getByLabel('Your name').fill(name)
  await colleague.locator('input[type=password]').fill(password)
  await colleague.getByRole('button', { name: /^Join / }).press('Enter')
  await colleague.waitForURL('**/send')
  return colleague
}
