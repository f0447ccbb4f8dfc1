import type { ComponentProps } from 'react'
import { later } from '../../../parts/later'
import type { OptionsPanel as Panel } from './OptionsPanel'

/** The panel of options, fetched when somebody opens it: its fields are no part of what a post needs at first. */
export const OptionsPanel = later<ComponentProps<typeof Panel>>('options panel', () =>
  import('./OptionsPanel').then((m) => m.OptionsPanel),
)
