/** How a link within a text looks where its surroundings give it no colour. */
export const toLink = { color: 'var(--mantine-color-anchor)' }
