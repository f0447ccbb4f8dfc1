/** What members may do, from least to most. */
export const roles = [
  { value: 'viewer', label: 'Viewer' },
  { value: 'editor', label: 'Editor' },
  { value: 'owner', label: 'Owner' },
] as const

export type Role = (typeof roles)[number]['value']

export const roleName = (role: string) => roles.find((r) => r.value === role)?.label ?? role

/** “an owner”, “a viewer”. */
export const withArticle = (role: string) => `${/^[aeiou]/.test(role) ? 'an' : 'a'} ${role}`

/** The roles below somebody’s own, which a program may have instead. */
export const rolesBelow = (role: string | undefined) =>
  roles.slice(
    0,
    roles.findIndex((r) => r.value === role),
  )
