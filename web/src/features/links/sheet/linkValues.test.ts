import { describe, expect, it } from 'vitest'
import type { Link } from '../links'
import { changedFields, changedParts, valueNames, valuesOf } from './linkValues'

const link = {
  title: 'Moon',
  destination: 'https://northmoor.example/moon',
  domain: 'nmoor.localhost',
  slug: 'moon',
  tags: ['event'],
  pixels: [],
  folder: 'Shop',
  note: null,
  opensAt: null,
  endsAt: null,
  channel: 'perch',
  campaign: 'winter-members',
  source: 'perch',
  medium: 'social',
  term: null,
  content: null,
  redirect: 302,
  options: {
    passQuery: 'off',
    referrer: 'keep',
    hideFromSearch: false,
    nofollow: false,
    sponsored: false,
    newTab: false,
    titleAttribute: null,
    anchorText: null,
    handoffDeadline: null,
  },
} as unknown as Link

describe('what a form has changed about a link', () => {
  const before = valuesOf(link, 'Europe/London')

  it('is nothing where nothing was typed', () => {
    expect(changedFields(before, valuesOf(link, 'Europe/London'))).toEqual([])
    expect(changedParts(before, valuesOf(link, 'Europe/London'))).toEqual({})
  })

  it('is sent alone, so that a colleague’s work on other fields stays', () =>
    expect(
      changedParts(before, {
        ...before,
        slug: 'full-moon',
        tags: [],
        folder: null,
        redirect: '301',
        options: { ...before.options, nofollow: true },
      }),
    ).toEqual({
      slug: 'full-moon',
      tags: [],
      folder: '',
      redirect: 301,
      options: { nofollow: true },
    }))

  it('says the usual wait where the field was emptied, and no channel by an empty text', () =>
    expect(
      changedParts(
        { ...before, options: { ...before.options, handoffDeadline: 400 } },
        { ...before, channel: null },
      ),
    ).toEqual({ channel: '', options: { handoffDeadline: 800 } }))

  it('has a name for each field that a person can read', () =>
    expect(
      [...Object.keys(before).filter((key) => key !== 'options'), ...Object.keys(link.options)].filter(
        (field) => !(field in valueNames),
      ),
    ).toEqual([]))
})
