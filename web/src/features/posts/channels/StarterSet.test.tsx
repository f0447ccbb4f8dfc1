// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react'
import { expect, it, vi } from 'vitest'
import { inBrowser, refused, type Answers } from '../../../parts/inBrowser'
import { StarterSet } from './StarterSet'

const starters = [
  { name: 'Short posts', medium: 'social', signet: 'Sp', color: 1, isUsual: true },
  { name: 'Newsletter', medium: 'email', signet: 'Nl', color: 0, isUsual: true },
  { name: 'Poster', medium: 'print', signet: 'Po', color: 6, isUsual: false },
]

it('adds the ticked channels with their new names, and the first campaign', async () => {
  const onAdded = vi.fn()
  const { user, asked } = await inBrowser(() => <StarterSet hasCampaigns={false} onAdded={onAdded} />, {
    'GET /api/v1/channels/starter-set': starters,
    'POST /api/v1/channels/starter-set': [{ key: 'perch' }, { key: 'poster' }],
    'POST /api/v1/campaigns': { key: 'always-on' },
  })
  await user.clear(await screen.findByLabelText('Name of Short posts'))
  await user.type(screen.getByLabelText('Name of Short posts'), 'Perch')
  await user.click(screen.getByLabelText('Use Newsletter'))
  await user.click(screen.getByLabelText('Use Poster'))
  await user.click(screen.getByRole('button', { name: 'Use 2 channels' }))
  await waitFor(() => expect(onAdded).toHaveBeenCalledWith(['perch', 'poster'], 'always-on'))
  expect(asked.filter((a) => a.what.startsWith('POST')).map((a) => a.body)).toEqual([
    {
      channels: [
        { name: 'Perch', color: 1, signet: 'Pe', medium: 'social' },
        { name: 'Poster', color: 6, signet: 'Po', medium: 'print' },
      ],
    },
    { name: 'Always on' },
  ])
})

it('tells which name is wrong, in its row', async () => {
  const { user } = await inBrowser(() => <StarterSet hasCampaigns onAdded={vi.fn()} />, {
    'GET /api/v1/channels/starter-set': starters,
    'POST /api/v1/channels/starter-set': refused({ 'channels[1].name': ['There is already a channel.'] }),
  })
  await user.click(await screen.findByRole('button', { name: 'Use 2 channels' }))
  await screen.findByText('There is already a channel.')
  expect(screen.getByLabelText('Name of Newsletter').getAttribute('aria-invalid')).toBe('true')
  expect(screen.getByLabelText('Name of Short posts').getAttribute('aria-invalid')).not.toBe('true')
})

it('where only the campaign is refused, says so at its field, and tries that alone again', async () => {
  const onAdded = vi.fn()
  const answers: Answers = {
    'GET /api/v1/channels/starter-set': starters,
    'POST /api/v1/channels/starter-set': [{ key: 'short-posts' }, { key: 'newsletter' }],
    'POST /api/v1/campaigns': refused({ name: ['Enter a campaign name.'] }),
  }
  const { user, asked } = await inBrowser(
    () => <StarterSet hasCampaigns={false} onAdded={onAdded} />,
    answers,
  )
  await user.click(await screen.findByRole('button', { name: 'Use 2 channels' }))
  await screen.findByText('Enter a campaign name.')
  expect(screen.getByLabelText('First campaign').getAttribute('aria-invalid')).toBe('true')

  answers['POST /api/v1/campaigns'] = { key: 'always-on' }
  await user.click(screen.getByRole('button', { name: 'Use 2 channels' }))
  await waitFor(() => expect(onAdded).toHaveBeenCalledWith(['short-posts', 'newsletter'], 'always-on'))
  expect(asked.filter((a) => a.what === 'POST /api/v1/channels/starter-set')).toHaveLength(1)
})
