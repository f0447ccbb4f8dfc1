// @vitest-environment jsdom
import { screen, within } from '@testing-library/react'
import { useState } from 'react'
import { expect, it } from 'vitest'
import type { Channel } from '../../../../api/vocabulary'
import { inBrowser } from '../../../../parts/inBrowser'
import { newRow, type Row } from '../draft'
import { PlacementRows } from './PlacementRows'
import type { PreviewRow } from '../usePreview'

const channel = (key: string, name: string) =>
  ({ key, name, source: key, medium: 'social', signet: 'Ch', color: 0 }) as Channel
const channels = [channel('perch', 'Perch'), channel('guildhall', 'Guildhall')]

const previewOf = (source: string, more: Partial<PreviewRow> = {}) => ({
  slug: `geminids-${source}`,
  finalUrl: `https://northmoor.example/geminids?utm_source=${source}&utm_campaign=winter`,
  isTaken: false,
  alternatives: [],
  hints: [],
  ...more,
  errors: () => undefined,
})

/** The rows as the Send page holds them. */
function Rows({ begin, preview = new Map() }: { begin: Row[]; preview?: Map<string, unknown> }) {
  const [rows, setRows] = useState(begin)
  return (
    <PlacementRows
      rows={rows}
      channels={channels}
      domains={[]}
      destination=""
      all={{}}
      preview={preview as never}
      domain="nmoor.localhost"
      missing="Choose a campaign"
      onChange={(id, part) => setRows(rows.map((row) => (row.id === id ? { ...row, ...part } : row)))}
      onAddVariant={(row) => setRows([...rows, newRow(row.channel, true)])}
      onRemove={(row) => setRows(rows.filter((r) => r !== row))}
    />
  )
}

const both = () => [newRow('perch', true), newRow('guildhall', false)]

it('a row that is not ticked says so, and gets its link by a tick', async () => {
  const { user } = await inBrowser(() => <Rows begin={both()} />)
  const row = screen.getByRole('row', { name: /Guildhall/ })
  expect(within(row).getByText('No link. Tick to include.')).toBeTruthy()
  await user.click(within(row).getByLabelText('Include Guildhall'))
  expect(within(row).getByLabelText('Slug for Guildhall')).toBeTruthy()
  expect(within(row).getByText('Choose a campaign')).toBeTruthy()
})

it('the domain stands once above the slugs, and each row shows what tells its address apart', async () => {
  const rows = [newRow('perch', true), newRow('guildhall', true)]
  const preview = new Map(rows.map((row) => [row.id, previewOf(row.channel)]))
  await inBrowser(() => <Rows begin={rows} preview={preview} />)
  expect(screen.getByRole('columnheader', { name: 'Short link on nmoor.localhost' })).toBeTruthy()
  const address = within(screen.getByRole('row', { name: /Perch/ })).getByTitle(/northmoor/)
  expect(address.textContent).toBe('utm_source=perch&…')
})

it('a taken slug offers free ones, and one of them is taken by a click', async () => {
  const rows = [newRow('perch', true)]
  const preview = new Map([
    [rows[0]!.id, previewOf('perch', { isTaken: true, alternatives: ['geminids-2'] })],
  ])
  const { user } = await inBrowser(() => <Rows begin={rows} preview={preview} />)
  await user.click(screen.getByRole('button', { name: 'geminids-2' }))
  expect(screen.getByLabelText('Slug for Perch')).toHaveProperty('value', 'geminids-2')
})

it('options open below their row, and close by Escape with the focus back on their button', async () => {
  const { user } = await inBrowser(() => <Rows begin={both()} />)
  const button = screen.getByRole('button', { name: 'Options for Perch' })
  await user.click(button)
  const options = await screen.findByRole('group', { name: 'Options for Perch' })
  await user.type(within(options).getByLabelText('Content for Perch'), 'logo{Escape}')
  expect(screen.queryByRole('group', { name: 'Options for Perch' })).toBeNull()
  expect(document.activeElement).toBe(button)
  expect(screen.getByLabelText('Content for Perch'), 'in use, it stands in the row').toHaveProperty(
    'value',
    'logo',
  )
})
