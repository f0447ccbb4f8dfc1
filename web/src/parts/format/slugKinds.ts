/** How slugs are made where none is typed, as it is chosen. */
export const slugKinds: Array<{ value: 'readable' | 'random'; label: string }> = [
  { value: 'readable', label: 'Readable, from title and channel' },
  { value: 'random', label: 'Random, six characters' },
]
