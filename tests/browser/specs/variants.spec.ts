import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import { signIn } from './people'

/** The page of a post of the demo, of a month ago and clicked no more, that the Night Letter carried with a picture and with a button. */
async function openPost(page: Page) {
  await signIn(page)
  await page.goto(
    await page.evaluate(async () => {
      const { items } = (await (await fetch('/api/v1/posts?query=woollen+hat')).json()) as { items: { id: string }[] }
      return `/posts/${items[0]!.id}`
    }),
  )
}

test('which variant won is said, and said anew for the part of the readers that saw each', async ({ page }) => {
  await openPost(page)
  const variants = page.getByRole('region', { name: 'Variants' })
  await expect(variants.getByText(/^“(picture|button)” .*“(picture|button)”/)).toBeVisible()
  const clicksOf = (name: string) =>
    variants.getByRole('row', { name: new RegExp(`^${name}`) }).getByRole('cell').nth(1).textContent().then((text) => Number(text?.replace(/\D/g, '')))
  for (const name of ['picture', 'button']) await expect.poll(() => clicksOf(name)).toBeGreaterThan(0)
  const [picture, button] = [await clicksOf('picture'), await clicksOf('button')]

  // By keyboard alone: one number says both.
  await variants.getByRole('button', { name: 'Shown unequally? Set the split' }).press('Enter')
  const part = variants.getByRole('textbox', { name: 'picture shown to' })
  await expect(variants.getByRole('textbox', { name: /shown to$/ }).first()).toBeFocused()
  await part.fill('30')
  await expect(variants.getByRole('textbox', { name: 'button shown to' })).toHaveValue('70%')
  await part.press('Enter')
  const again = variants.getByRole('button', { name: 'Change the split' })
  await expect(again).toBeFocused()
  const index = (picture / (picture + button) / 0.3).toFixed(2)
  await expect(variants.getByRole('row', { name: new RegExp(`^picture 30% ${picture} ${index} `) })).toBeVisible()
  await expect(variants.getByText(/^“picture” won\. Its lead over “button” is clear, by a factor of [\d.]+ \(.*\) after allowing for the split/)).toBeVisible()
  const { violations } = await new AxeBuilder({ page }).include('[aria-label="Variants"]').withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze()
  expect(violations.map((v) => `${v.id}: ${v.nodes[0]?.target.join(' ')}`)).toEqual([])

  await page.reload()
  await again.click()
  await part.fill('101')
  await expect(variants.getByRole('button', { name: 'Save split' })).toBeDisabled()
  await part.press('Escape')
  await again.click()
  await variants.getByRole('button', { name: 'Reset to equal' }).click()
  await expect(variants.getByRole('button', { name: 'Shown unequally? Set the split' })).toBeFocused()
  await expect(variants.getByRole('row', { name: /^picture alike/ })).toBeVisible()
})
