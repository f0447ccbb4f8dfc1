import { expect, test } from 'vitest'
import { pastedEmails } from './pastedEmails'

test('addresses are read from lists however they were written', () => {
  expect(
    pastedEmails(
      'Ines Calloway <ines@harbour.example>, "Tobias Finch" <tobias@harbour.example>;\npriya@harbour.example maren@harbour.example.',
    ),
  ).toEqual([
    'ines@harbour.example',
    'tobias@harbour.example',
    'priya@harbour.example',
    'maren@harbour.example',
  ])
})

test('what is no address is left for the server to name', () => {
  expect(pastedEmails('ines')).toEqual(['ines'])
  expect(pastedEmails('  ')).toEqual([])
})
