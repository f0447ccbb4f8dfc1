import { describe, expect, it } from 'vitest'
import type { Channel } from '../../api/vocabulary'
import { newDraft, newRow, ticked, toRequest } from './draft'
import { asMarkdown } from './linkTexts'

const channels = ['guildhall', 'perch', 'poster'].map((key) => ({ key }) as Channel)

describe('the draft of a post', () => {
  it('has a row for each channel, those of the last time ticked', () => {
    const draft = newDraft('northmoor.example', channels, ['perch', 'gone'])
    expect(draft.rows.map((row) => row.channel)).toEqual(['guildhall', 'perch', 'poster'])
    expect(ticked(draft).map((row) => row.channel)).toEqual(['perch'])
  })

  it('sends only what was typed, and leaves the rest to the agreed words', () => {
    const draft = { ...newDraft('northmoor.example', channels, ['perch']), campaign: 'winter-members' }
    expect(toRequest(draft)).toMatchObject({
      title: null,
      placements: [{ channel: 'perch', source: null, medium: null, variant: null, slug: null }],
    })
  })

  it('saves the slugs and the title that were proposed where none were typed', () => {
    const rows = [newRow('perch', true), { ...newRow('poster', true), slug: ' own ' }]
    const draft = { ...newDraft('northmoor.example', [], []), rows }
    const request = toRequest(draft, {
      title: 'Geminids night',
      slugs: new Map([[rows[0]!.id, 'geminids-perch']]),
    })
    expect(request.title).toBe('Geminids night')
    expect(request.placements?.map((p) => p.slug)).toEqual(['geminids-perch', 'own'])
  })
})

describe('the link as Markdown', () => {
  it('escapes what would end its text early', () => {
    expect(asMarkdown({ title: 'Stars [free]', shortUrl: 'http://n.localhost/a' })).toBe(
      '[Stars \\[free\\]](http://n.localhost/a)',
    )
  })
})
