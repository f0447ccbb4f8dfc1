import { Stack } from '@mantine/core'
import type { Schema } from '../../api/client'
import { linkOptions } from '../../api/linkOptions'
import { LinkOptionFields, type LinkOptionsPatch } from '../../parts/LinkOptionFields'

/** Options as the fields have them: no text is an empty one, and no number the usual one. */
export const asFields = (options: Schema['LinkOptions']): LinkOptionsPatch => ({
  ...options,
  ...Object.fromEntries(
    linkOptions
      .filter((o) => o.kind === 'text' || o.kind === 'number')
      .map((o) => [o.key, options[o.key] ?? o.usual ?? '']),
  ),
})

interface Props {
  options: LinkOptionsPatch
  readOnly?: boolean
  errors?: Record<string, unknown>
  onChange: (options: LinkOptionsPatch) => void
}

/** What new links have where nobody says otherwise. */
export function LinkDefaultFields({ options, readOnly, errors, onChange }: Props) {
  return (
    <Stack gap="sm" maw={480}>
      <LinkOptionFields
        options={options}
        readOnly={readOnly}
        errors={errors}
        onChange={(change) => onChange({ ...options, ...change })}
      />
    </Stack>
  )
}
