// @vitest-environment jsdom
import { screen, within } from '@testing-library/react'
import { expect, it, vi } from 'vitest'
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

const figures = {
  since: null,
  branches: [
    {
      rule: 1,
      people: 30,
      clicks: 33,
      pages: [
        { number: 2, destination: 'https://northmoor.example/app', shareGot: 1, people: 30, clicks: 33 },
      ],
    },
    {
      rule: 0,
      people: 90,
      clicks: 90,
      pages: [
        { number: 3, destination: '', shareSet: 60, shareGot: 0.6, people: 54, clicks: 54 },
        { number: 4, destination: '', shareSet: 40, shareGot: 0.4, people: 36, clicks: 36 },
      ],
      split: 'as-set',
      says: 'The split works as set.',
    },
  ],
}

const savedRoute = { id: 'r1', name: 'By device', links: 14, words: '', version: 1, routes: {} }

const show = (route: object, mayChange = true) =>
  inBrowser(() => <WhereItLeads link={link} mayChange={mayChange} />, {
    'GET /api/v1/links/1/routes': { remember: 'day', ...route },
    'GET /api/v1/links/1/routes/figures': figures,
    'PUT /api/v1/links/1/routes': { remember: 'day', ...route },
    'GET /api/v1/links/1': link,
    'GET /api/v1/routes': { items: [savedRoute] },
    'PATCH /api/v1/routes/r1': savedRoute,
    'POST /api/v1/routes': { ...savedRoute, id: 'r2' },
    'GET /api/v1/reports/breakdown': { rows: [] },
    'POST /api/v1/links/1/routes/try': {
      rule: null,
      destination: 'https://northmoor.example/sale',
      finalUrl: 'https://northmoor.example/sale',
      why: ['Not on a phone.'],
    },
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

it('shows the people who took each way, what each page of a split got, and whether it works', async () => {
  await show({
    rules: [onPhones],
    otherwise: {
      to: [
        { destination: 'https://northmoor.example/a', weight: 60, number: 3 },
        { destination: 'https://northmoor.example/b', weight: 40, number: 4 },
      ],
    },
  })
  await screen.findByText(/^120 people since the link was created/)
  const [phones, rest] = screen.getAllByRole('listitem')
  expect(phones!.textContent).toMatch(/app30$/)
  expect(rest!.textContent).toMatch(/60%.*a54 60%40%.*b36 40%The split works as set\.$/)
  expect(phones!.style.getPropertyValue('--twig')).toBe('5px')
})

it('shows where a closed link leads instead and whom, and that whoever is turned away isn’t counted', async () => {
  const closed = { ...onPhones, to: null, closed: { text: null, page: 'https://northmoor.example/over' } }
  const away = { ...onPhones, number: 0, name: 'Abroad', to: null, closed: { text: 'Not here', page: null } }
  await show({ rules: [closed, away] })
  await screen.findByText(/^120 people/)
  const [led, turned] = screen.getAllByRole('listitem')
  expect(led!.textContent).toMatch(/Closed, leads tonorthmoor\.example\/over30$/)
  expect(turned!.textContent).toMatch(/Closed \(who is turned away isn’t counted\)$/)
})

it('says which rule decides for a made-up visitor, and why others don’t', async () => {
  const { user, asked } = await show({ rules: [onPhones] })
  await user.click(await screen.findByRole('button', { name: 'Try it' }))
  await user.selectOptions(screen.getByLabelText('Device'), 'tablet')
  await user.click(screen.getByRole('button', { name: 'Try it' }))
  const result = await screen.findByRole('status', { name: 'What they get' })
  expect(result.textContent).toContain('Everyone else: leads to northmoor.example/sale')
  expect(within(result).getByText('Not on a phone.')).toBeTruthy()
  expect(asked.find((a) => a.what.endsWith('/try'))!.body).toEqual({ device: 'tablet' })
})

it('saves a rule that was switched off with all others as they are', async () => {
  const { user, asked } = await show({ rules: [onPhones] })
  await user.click(await screen.findByRole('button', { name: 'Actions for rule 1, on a phone' }))
  await user.click(await screen.findByRole('menuitem', { name: 'Switch off', hidden: true }))
  const put = asked.find((a) => a.what.startsWith('PUT'))
  expect((put!.body as { rules: Array<{ off: boolean }> }).rules[0]).toMatchObject({ ...onPhones, off: true })
})

it('changes a saved route for all links that follow it, or leaves it', async () => {
  const { user, asked } = await show({ rules: [onPhones], routeId: 'r1' })
  await screen.findByText('By device')
  expect(screen.getByRole('region').textContent).toContain('used by 14 links')
  await user.click(await screen.findByRole('button', { name: 'Actions for rule 1, on a phone' }))
  await user.click(await screen.findByRole('menuitem', { name: 'Switch off', hidden: true }))
  expect(asked.filter((a) => a.what === 'PATCH /api/v1/routes/r1')).toHaveLength(1)
  await user.click(screen.getByRole('button', { name: 'Use separate rules' }))
  expect(asked.find((a) => a.what.startsWith('PUT'))!.body).toMatchObject({
    rules: [onPhones],
    routeId: null,
  })
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

it('closes the link for visitors with a parameter and leads them to a page instead', async () => {
  const { user, asked } = await show({ rules: [] })
  await user.click(await screen.findByRole('button', { name: 'Add a rule' }))
  const form = within(await screen.findByRole('form', { name: 'Rule' }))
  await user.click(form.getByRole('button', { name: 'More conditions' }))
  await user.type(form.getByLabelText('With the parameter'), 'ref')
  await user.type(form.getByLabelText('Equal to'), 'old')
  await user.click(form.getByLabelText('Closed'))
  await user.type(form.getByLabelText(/instead$/), 'https://northmoor.example/over')
  await user.click(form.getByRole('button', { name: 'Save' }))
  expect(asked.find((a) => a.what.startsWith('PUT'))!.body).toMatchObject({
    rules: [
      {
        when: { query: { name: 'ref', equals: 'old' } },
        closed: { text: null, page: 'https://northmoor.example/over' },
        to: null,
      },
    ],
  })
})

it('keeps the rules of a link under a name and has the link follow them', async () => {
  const { user, asked } = await show({ rules: [onPhones] })
  await user.click(await screen.findByRole('button', { name: 'Save these rules for other links…' }))
  await user.type(screen.getByLabelText(/^Name of the saved route/), 'Members{Enter}')
  const body = (what: string) => asked.find((a) => a.what.startsWith(what))!.body
  expect(body('POST')).toMatchObject({ name: 'Members', routes: { rules: [onPhones] } })
  await vi.waitFor(() => expect(body('PUT')).toEqual({ remember: 'day', routeId: 'r2' }))
})

it('lets visitors of a split keep their page for 30 days', async () => {
  const pages = [50, 50].map((weight, place) => ({
    destination: `https://northmoor.example/${place}`,
    weight,
  }))
  const { user, asked } = await show({ rules: [], otherwise: { to: pages } })
  await user.selectOptions(await screen.findByLabelText(/keep their page$/), '30-days')
  expect(asked.find((a) => a.what.startsWith('PUT'))!.body).toMatchObject({
    remember: '30-days',
    otherwise: { to: pages },
  })
})

it('offers whoever may not change anything to try it alone', async () => {
  await show({ rules: [onPhones] }, false)
  await screen.findByText('Everyone else')
  expect(screen.getAllByRole('button').map((button) => button.textContent)).toEqual(['Try it'])
})
