// @vitest-environment jsdom
import { screen } from '@testing-library/react'
import { expect, it } from 'vitest'
import { inBrowser } from '../../../parts/inBrowser'
import { QuestionSentence } from './QuestionSentence'

const campaigns = {
  items: [{ id: '1', key: 'winter-members', name: 'Winter members' }],
  nextCursor: null,
  total: 1,
}

it('reads as a question, and each of its words asks another one', async () => {
  const { user, address } = await inBrowser(
    () => <QuestionSentence question={{ by: 'channel', campaign: 'winter-members' }} labels={undefined} />,
    { 'GET /api/v1/campaigns': campaigns },
  )
  await screen.findByRole('button', { name: 'Campaign: Winter members' })
  expect(screen.getByRole('heading', { level: 1 }).textContent).toMatch(
    /^Which channel\s*brought the most\s*clicks\s*for\s*Winter members\s*in\s*the last 28 days/,
  )
  await user.click(screen.getByRole('button', { name: 'Compare by: channel' }))
  await user.click(await screen.findByRole('menuitem', { name: 'country' }))
  expect(address()).toContain('/compare?by=country')
})

it('names each further filter, and takes it off', async () => {
  const { user, address } = await inBrowser(
    () => <QuestionSentence question={{ by: 'link', channel: 'perch' }} labels={undefined} />,
    { 'GET /api/v1/campaigns': campaigns },
  )
  await user.click(await screen.findByRole('button', { name: /^channel: perch\. Remove this filter$/ }))
  expect(address()).toContain('/compare')
  expect(address()).not.toContain('perch')
})
