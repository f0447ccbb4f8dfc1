// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react'
import { expect, it, vi } from 'vitest'
import type { Channel } from '../../../api/vocabulary'
import { inBrowser, refused } from '../../../parts/inBrowser'
import { ChannelForm } from './ChannelForm'

const proposal = { source: 'night-letter', medium: 'email', network: null }
const perch: Channel = {
  id: '1',
  key: 'perch',
  name: 'Perch',
  source: 'perch',
  medium: 'social',
  signet: 'Pe',
  color: 1,
  ownColor: null,
  textLimit: 300,
  addressLength: null,
  retiredAt: null,
}

it('proposes source and medium for a new channel, and leaves them to the server where nothing is typed', async () => {
  const onDone = vi.fn()
  const { user, asked } = await inBrowser(() => <ChannelForm onDone={onDone} />, {
    'GET /api/v1/channels/proposal': proposal,
    'POST /api/v1/channels': perch,
  })
  await user.type(screen.getByLabelText(/^Name/), 'Night Letter')
  await waitFor(() => expect(screen.getByLabelText('Source')).toHaveProperty('placeholder', 'night-letter'))
  expect(screen.getByLabelText('Medium')).toHaveProperty('placeholder', 'email')
  await user.click(screen.getByRole('radio', { name: 'Rust' }))
  await user.click(screen.getByRole('button', { name: 'Add channel' }))
  await waitFor(() => expect(onDone).toHaveBeenCalled())
  expect(asked.find((a) => a.what.startsWith('POST'))?.body).toEqual({
    name: 'Night Letter',
    color: 2,
    ownColor: '',
    textLimit: 0,
    addressLength: 0,
  })
})

it('changes a channel in place, and tells at a field what is wrong with it', async () => {
  const onDone = vi.fn()
  const { user, asked } = await inBrowser(() => <ChannelForm channel={perch} onDone={onDone} />, {
    'GET /api/v1/pixels': {
      items: [
        { id: 'p1', name: 'Visitors', channels: ['perch'] },
        { id: 'p2', name: 'Members', channels: [] },
      ],
    },
    'PATCH /api/v1/channels/1': refused({ medium: ['Enter a value.'] }),
  })
  expect(screen.getByLabelText('Text limit')).toHaveProperty('value', '300')
  await user.clear(screen.getByLabelText('Medium'))
  await user.click(screen.getByRole('button', { name: 'Save channel' }))
  expect(await screen.findByText('Enter a value.')).toBeTruthy()
  expect(onDone).not.toHaveBeenCalled()
  expect(asked.find((a) => a.what.startsWith('PATCH'))?.body).not.toHaveProperty('pixels')

  await user.click(screen.getByRole('radio', { name: 'Own colour' }))
  await user.click(screen.getByRole('combobox', { name: 'Default pixels' }))
  await user.click(await screen.findByRole('option', { name: 'Members' }))
  await user.click(screen.getByRole('button', { name: 'Save channel' }))
  await waitFor(() => expect(asked.filter((a) => a.what.startsWith('PATCH'))).toHaveLength(2))
  expect(asked.findLast((a) => a.what.startsWith('PATCH'))?.body).toMatchObject({
    ownColor: '#2f5d8a',
    pixels: ['p1', 'p2'],
  })

  await user.keyboard('{Escape}')
  expect(onDone).toHaveBeenCalled()
})
