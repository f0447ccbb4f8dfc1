import { describe, expect, it } from 'vitest'
import type { Channel } from '../../../api/vocabulary'
import { countSettings, fromRequest, newDraft, newRow, ticked, toRequest, withRecipe } from './draft'

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

describe('a kept draft', () => {
  const kept = {
    ...newDraft('northmoor.example', channels, []),
    title: 'Geminids',
    campaign: 'winter-members',
    pastedTags: 'keep' as const,
    all: { tags: ['event'], slugKind: 'random' as const, options: { newTab: true } },
    rows: [
      { ...newRow('perch', true), variant: 'logo', own: { redirect: 301, options: { sponsored: true } } },
      { ...newRow('perch', true), variant: 'button' },
    ],
  }

  it('opens as it was left, with the other channels waiting', () => {
    const { rows, ...rest } = fromRequest(toRequest(kept), channels)
    expect(rest).toEqual({
      destination: kept.destination,
      title: kept.title,
      campaign: kept.campaign,
      pastedTags: kept.pastedTags,
      all: kept.all,
    })
    expect(rows.map(({ channel, isOn, variant, own }) => [channel, isOn, variant, own])).toEqual([
      ['guildhall', false, '', {}],
      ['perch', true, 'logo', { redirect: 301, options: { sponsored: true } }],
      ['perch', true, 'button', {}],
      ['poster', false, '', {}],
    ])
    expect(toRequest({ ...kept, ...fromRequest(toRequest(kept), channels) })).toEqual(toRequest(kept))
  })

  it('leaves out channels that are gone', () => {
    expect(
      fromRequest({ ...toRequest(kept), placements: [{ channel: 'gone' }] }, channels).rows.map(
        (r) => r.channel,
      ),
    ).toEqual(['guildhall', 'perch', 'poster'])
  })

  it('lends its rows and settings as a recipe, not its page or title', () => {
    const begun = { ...newDraft('lensworks.example', channels, ['poster']), title: 'Mirrors' }
    const cooked = withRecipe(begun, toRequest(kept), channels)
    expect([cooked.destination, cooked.title, cooked.all.tags]).toEqual([
      'lensworks.example',
      'Mirrors',
      ['event'],
    ])
    expect(ticked(cooked).map((r) => r.variant)).toEqual(['logo', 'button'])
  })

  it('keeps its own time when it takes a recipe, which was made for another', () => {
    const begun = { ...newDraft('lensworks.example', channels, ['poster']), all: { endsAt: '2026-12-24' } }
    const recipe = { ...toRequest(kept), opensAt: '2025-11-28', endsAt: '2025-12-24' }
    const cooked = withRecipe(begun, recipe, channels)
    expect([cooked.all.opensAt, cooked.all.endsAt]).toEqual([undefined, '2026-12-24'])
  })

  it('shows how much is set where it cannot be seen', () => {
    expect(countSettings({})).toBe(0)
    expect(
      countSettings({ redirect: 301, options: { newTab: true, nofollow: false, anchorText: null } }),
    ).toBe(3)
  })
})
