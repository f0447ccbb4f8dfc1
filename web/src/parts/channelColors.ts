/** The ten colours of channels and tags; white and dark text read on each in its scheme. */
export const channelColors = [
  'Plum',
  'Teal',
  'Rust',
  'Olive',
  'Blue',
  'Moss',
  'Umber',
  'Mauve',
  'Slate',
  'Madder',
] as const
