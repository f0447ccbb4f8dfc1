/**
 * A short domain that works without any set-up: the organisation’s name below .localhost, which every browser resolves to its own machine.
 * Empty where Cursus is opened from elsewhere, since the name would not reach it there.
 */
export function proposedDomain(organisation: string, openedAt: string) {
  const isHere = openedAt === 'localhost' || openedAt.endsWith('.localhost') || openedAt === '127.0.0.1'
  const words = organisation
    .normalize('NFD')
    .toLowerCase()
    .replace(/[^a-z0-9\s-]/g, '')
    .split(/[\s-]+/)
    .filter(Boolean)
  return isHere && words.length > 0 ? `${words.join('-').slice(0, 50).replace(/-+$/, '')}.localhost` : ''
}
