// @vitest-environment jsdom
import { screen, within } from '@testing-library/react'
import { expect, it } from 'vitest'
import { inBrowser } from '../../../parts/inBrowser'
import type { Link } from '../links'
import { WhereItLeads } from './WhereItLeads'

const link = { id: '1', version: 3, destination: 'https://northmoor.example/sale' } as Link

const onPhones = {
  number: 1,
  words: 'on a phone',
  when: { devices: ['phone'] },
  to: [{ destination: 'https://northmoor.example/app', weight: 100, number: 2 }],
  off: false,
}

const show = (route: object, mayChange = true) =>
  inBrowser(() => <WhereItLeads link={link} mayChange={mayChange} />, {
    'GET /api/v1/links/1/routes': { remember: 'day', ...route },
    'PUT /api/v1/links/1/routes': { remember: 'day', ...route },
    'GET /api/v1/links/1': link,
  })

it('shows each rule with its page, and what everyone else gets', async () => {
  await show({
    rules: [onPhones, { ...onPhones, number: 2, name: 'Closed abroad', to: null, closed: {}, off: true }],
    otherwise: {
      to: [
        { destination: 'https://northmoor.example/a', weight: 60, number: 3 },
        { destination: 'https://northmoor.example/b', weight: 40, number: 4 },
      ],
    },
  })
  const [first, second, rest] = await screen.findAllByRole('listitem')
  expect(first!.textContent).toContain('on a phone')
  expect(first!.textContent).toContain('northmoor.example/app')
  expect(second!.textContent).toMatch(/Closed abroad.*off.*Closed$/)
  expect(rest!.textContent).toMatch(/Everyone else.*60%.*a.*40%.*b/)
})

it('saves a rule that was switched off with all others as they are', async () => {
  const { user, asked } = await show({ rules: [onPhones] })
  await user.click(await screen.findByRole('button', { name: 'Actions for rule 1, on a phone' }))
  await user.click(await screen.findByRole('menuitem', { name: 'Switch off', hidden: true }))
  const put = asked.find((a) => a.what.startsWith('PUT'))
  expect((put!.body as { rules: Array<{ off: boolean }> }).rules[0]).toMatchObject({ ...onPhones, off: true })
})

it('shares a split anew when a page is added, and keeps a share that was typed', async () => {
  const { user, asked } = await show({ rules: [] })
  await user.click(await screen.findByRole('button', { name: 'Split over several pages' }))
  const form = await screen.findByRole('form', { name: 'Pages for everyone else' })
  await user.type(within(form).getByLabelText('Address of page 1'), 'https://northmoor.example/a')
  await user.type(within(form).getByLabelText('Address of page 2'), 'https://northmoor.example/b')
  await user.clear(within(form).getByLabelText('Share of page 1'))
  await user.type(within(form).getByLabelText('Share of page 1'), '80')
  await user.click(within(form).getByRole('button', { name: 'Save' }))
  const put = asked.find((a) => a.what.startsWith('PUT'))
  expect(put!.body).toMatchObject({ otherwise: { to: [{ weight: 80 }, { weight: 20 }] } })
})

it('offers nothing to change to whoever may not', async () => {
  await show({ rules: [onPhones] }, false)
  await screen.findByText('Everyone else')
  expect(screen.queryByRole('button')).toBeNull()
})
