// @vitest-environment jsdom
import { screen, within } from '@testing-library/react'
import { useState } from 'react'
import { expect, it } from 'vitest'
import { inBrowser } from '../../../parts/inBrowser'
import { RoutesField } from './RoutesField'
import type { Route } from './routes'

const split: Route = {
  remember: 'day',
  rules: [],
  otherwise: {
    handsOverWhileDead: true,
    to: [
      { destination: 'https://northmoor.example/a', weight: 50 },
      { destination: 'https://northmoor.example/b', weight: 50 },
    ],
  },
}

const show = (given?: Route) => {
  const seen: Array<Route | undefined> = []
  const shown = inBrowser(
    function Field() {
      const [routes, setRoutes] = useState<Route>()
      return (
        <RoutesField
          of="Perch"
          routes={routes}
          given={given}
          destination="https://northmoor.example/"
          onChange={(changed) => {
            seen.push(changed)
            setRoutes(changed)
          }}
        />
      )
    },
    {
      'POST /api/v1/routes/check': split,
      'GET /api/v1/routes': {
        items: [{ id: 'r1', name: 'By device', links: 3, words: 'on a phone: a.example', routes: {} }],
      },
    },
  )
  return shown.then((page) => ({ ...page, seen }))
}

it('takes a split that the server finds right, and says it in few words', async () => {
  const { user, seen, asked } = await show()
  await screen.findByText('everybody to the destination')
  await user.click(screen.getByRole('button', { name: 'Split Perch over several pages' }))
  const form = await screen.findByRole('form', { name: 'Pages for everyone else' })
  await user.type(within(form).getByLabelText('Address of page 1'), 'https://northmoor.example/a')
  await user.type(within(form).getByLabelText('Address of page 2'), 'https://northmoor.example/b')
  await user.click(within(form).getByRole('button', { name: 'Save' }))
  await screen.findByText('split over 2 pages')
  expect(asked.at(-1)!.body).toMatchObject({ otherwise: { to: [{ weight: 50 }, { weight: 50 }] } })
  expect(seen).toEqual([split])
  await user.click(screen.getByRole('button', { name: 'Remove the rules of Perch', hidden: true }))
  expect(seen.at(-1)).toBeUndefined()
})

it('lets a row go without the rules of all rows, and have them again', async () => {
  const { user, seen } = await show(split)
  await screen.findByText('same as all rows: split over 2 pages')
  await user.click(screen.getByRole('button', { name: 'No rules for Perch' }))
  await screen.findByText('none')
  expect(seen).toEqual([{}])
  await user.click(screen.getByRole('button', { name: 'Remove the rules of Perch' }))
  await screen.findByText('same as all rows: split over 2 pages')
})

it('follows a saved route by its name, in place of rules of its own', async () => {
  const { user, seen } = await show()
  await user.click(await screen.findByRole('combobox', { name: 'Saved route for Perch' }))
  await user.click(await screen.findByRole('option', { name: 'By device', hidden: true }))
  await screen.findByText('By device', { selector: 'p' })
  expect(seen).toEqual([{ remember: 'day', routeId: 'r1' }])
  expect(screen.queryByRole('button', { name: 'Rules for Perch' })).toBeNull()
})
