/** One page of settings: its address below /settings, its name, and words that people may search for it by. */
export interface Section {
  id: SectionId
  label: string
  words: string
}

/** All settings by what they are about. Their addresses don’t change: people bookmark them and the docs name them. */
export const groups = [
  {
    label: 'General',
    sections: [
      {
        id: 'workspace',
        label: 'Workspace',
        words: 'name public logo time zone week numbers language organisation',
      },
    ],
  },
  {
    label: 'Vocabulary',
    sections: [
      { id: 'channels', label: 'Channels', words: 'networks source medium order retire merge' },
      { id: 'campaigns', label: 'Campaigns', words: 'fallback default recipe' },
      { id: 'recipes', label: 'Recipes', words: 'saved options templates' },
      { id: 'routes', label: 'Saved routes', words: 'rules split redirect by country device' },
      { id: 'utm', label: 'UTM values', words: 'vocabulary terms contents duplicates merge lock' },
      { id: 'tags', label: 'Tags and folders', words: 'colours labels clients' },
    ],
  },
  {
    label: 'Links',
    sections: [
      {
        id: 'new-links',
        label: 'New links',
        words: 'defaults domain redirect type slug search referrer parameters html nofollow qr look',
      },
      { id: 'domains', label: 'Short domains', words: 'dns records' },
      { id: 'link-check', label: 'Link check', words: 'broken pages fallback' },
    ],
  },
  {
    label: 'Retargeting',
    sections: [
      { id: 'handoff', label: 'Handoff page', words: 'redirect pixels consent colours privacy' },
      { id: 'ad-networks', label: 'Ad networks', words: 'pixels descriptions' },
    ],
  },
  {
    label: 'People',
    sections: [
      { id: 'members', label: 'Members', words: 'team roles owners editors viewers invite people' },
      { id: 'audit', label: 'Audit log', words: 'who did what history security deleted exported' },
    ],
  },
  {
    label: 'Data and programs',
    sections: [
      { id: 'counting', label: 'Click counting', words: 'office networks scanners bots keep delete clicks' },
      { id: 'referrers', label: 'Referring sites', words: 'where clicks come from hosts channel' },
      { id: 'any-page', label: 'Post from any page', words: 'bookmark bookmarklet phone share' },
      { id: 'tokens', label: 'API tokens', words: 'programs access' },
      { id: 'webhooks', label: 'Webhooks', words: 'programs notify events integrations automation' },
      { id: 'background', label: 'Background work', words: 'jobs schedule failed last run digest sealing' },
      { id: 'archive', label: 'Archive', words: 'export import backup whole workspace zip' },
    ],
  },
] as const

export type SectionId = (typeof groups)[number]['sections'][number]['id']

export const sections: readonly Section[] = groups.flatMap((group) => [...group.sections])

/** The sections whose name or search words have all that was typed, for the address bar. */
export function sectionsLike(typed: string): Section[] {
  const parts = typed.toLowerCase().split(/\s+/).filter(Boolean)
  if (parts.length === 0) return []
  return sections.filter(({ label, words }) => {
    const text = `settings ${label} ${words}`.toLowerCase()
    return parts.every((part) => text.includes(part))
  })
}
