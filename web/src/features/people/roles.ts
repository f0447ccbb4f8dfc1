/** What members may do, from least to most. */
export const roles = [
  { value: 'viewer', label: 'Viewer', may: 'reads everything' },
  { value: 'editor', label: 'Editor', may: 'creates and changes posts and links' },
  { value: 'owner', label: 'Owner', may: 'also changes settings and decides who belongs here' },
] as const

export type Role = (typeof roles)[number]['value']

export const roleName = (role: string) => roles.find((r) => r.value === role)?.label ?? role

/** “an owner”, “a viewer”. */
export const withArticle = (role: string) => `${/^[aeiou]/.test(role) ? 'an' : 'a'} ${role}`
