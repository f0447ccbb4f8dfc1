import { createHmac } from 'node:crypto'
import { expect, test, type Page } from '@playwright/test'
import { invite, join, password } from './colleagues'
import { unique } from './people'

/** A device with a finger on it, which keeps passkeys and opens them without asking. */
async function giveDevice(page: Page) {
  const devtools = await page.context().newCDPSession(page)
  await devtools.send('WebAuthn.enable')
  await devtools.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  })
}

/** What an authenticator app shows for a key, by RFC 6238. */
function codeOf(key: string, step = 0) {
  const bits = [...key.replaceAll(' ', '')].map((c) => 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(c).toString(2).padStart(5, '0')).join('')
  const secret = Buffer.from(bits.match(/.{8}/g)!.map((b) => parseInt(b, 2)))
  const counter = Buffer.alloc(8)
  counter.writeBigInt64BE(BigInt(Math.floor(Date.now() / 30_000) + step))
  const hash = createHmac('sha1', secret).update(counter).digest()
  return String((hash.readInt32BE(hash[19]! & 15) & 0x7fffffff) % 1_000_000).padStart(6, '0')
}

async function typePassword(page: Page, email: string) {
  await page.goto('/sign-in')
  await page.getByLabel('E-mail').fill(email)
  await page.locator('input[type=password]').fill(password)
  await page.getByRole('button', { name: 'Sign in', exact: true }).press('Enter')
}

test('a passkey signs in alone; the password wants a recovery code or the code of an app besides', async ({ page, browser }) => {
  const email = `${unique('ida').replace(' ', '-')}@harbour.example`
  await invite(page, email)
  const ida = await join(browser, page, email, 'Ida Rask')
  await giveDevice(ida)
  await ida.goto('/account')
  const part = ida.getByRole('region', { name: 'Two-step sign-in' })
  await part.getByRole('button', { name: 'Add a passkey' }).press('Enter')
  await part.getByLabel('Name of this passkey').fill('Laptop')
  await part.getByLabel('Your password').fill(password)
  await part.getByLabel('Your password').press('Enter')
  const codes = part.getByRole('status').getByRole('listitem')
  await expect(codes).toHaveCount(10)
  const recovery = await codes.allTextContents()
  await part.getByRole('button', { name: 'I’ve kept them' }).press('Enter')
  await expect(part.getByRole('table')).toContainText('Passkey “Laptop”')

  await ida.context().clearCookies()
  await ida.goto('/sign-in')
  await ida.getByRole('button', { name: 'Sign in with a passkey' }).press('Enter')
  await ida.waitForURL('**/send')

  await ida.context().clearCookies()
  await typePassword(ida, email)
  await expect(ida.getByRole('alert')).toContainText('Sign in with your passkey, or enter one of your recovery codes')
  await ida.getByRole('textbox', { name: 'Code' }).fill(recovery[0]!)
  await ida.keyboard.press('Enter')
  await ida.waitForURL('**/send')

  await ida.goto('/account')
  await expect(part.getByRole('table')).toContainText('9 left')
  await part.getByRole('button', { name: 'Set up an authenticator app' }).press('Enter')
  await part.getByLabel('Your password').fill(password)
  await part.getByLabel('Your password').press('Enter')
  await expect(part.getByRole('img', { name: 'QR code for your authenticator app' })).toBeVisible()
  const key = /(?:[A-Z2-7]{4} ?){8}/.exec(await part.getByText('Or type this key').textContent() ?? '')![0]
  await part.getByLabel('Code from the app').fill(codeOf(key))
  await part.getByLabel('Code from the app').press('Enter')
  await expect(part.getByRole('table')).toContainText('Authenticator app')

  await ida.context().clearCookies()
  await typePassword(ida, email)
  await ida.getByRole('textbox', { name: 'Code' }).fill(codeOf(key, 1))
  await ida.keyboard.press('Enter')
  await ida.waitForURL('**/send')

  await ida.goto('/account')
  for (const name of ['authenticator app', 'passkey “Laptop”']) {
    await part.getByRole('button', { name: `Remove ${name}` }).press('Enter')
    await part.getByLabel('Your password').fill(password)
    await part.getByLabel('Your password').press('Enter')
    await expect(part.getByRole('button', { name: `Remove ${name}` })).toHaveCount(0)
  }
  await expect(part.getByText('Off', { exact: true })).toBeVisible()
})
