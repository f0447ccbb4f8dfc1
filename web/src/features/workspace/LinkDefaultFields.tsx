import { Checkbox, Select, Stack, TextInput } from '@mantine/core'
import type { Schema } from '../../api/client'
import { optionSwitches, passings, referrers } from '../../parts/format/redirects'

type LinkDefaults = Schema['LinkOptions'] & { anchorText: string; titleAttribute: string }

/** Options as the fields have them: no text is an empty one. */
export const asFields = (options: Schema['LinkOptions']): LinkDefaults => ({
  ...options,
  anchorText: options.anchorText ?? '',
  titleAttribute: options.titleAttribute ?? '',
})

interface Props {
  options: LinkDefaults
  readOnly?: boolean
  errors?: Record<string, unknown>
  onChange: (options: LinkDefaults) => void
}

/** What new links have where nobody says otherwise. */
export function LinkDefaultFields({ options, readOnly, errors = {}, onChange }: Props) {
  const set = (part: Partial<LinkDefaults>) => onChange({ ...options, ...part })
  const text = (key: 'anchorText' | 'titleAttribute', label: string, placeholder: string) => (
    <TextInput
      label={label}
      placeholder={placeholder}
      maxLength={200}
      readOnly={readOnly}
      value={options[key]}
      error={errors[`options.${key}`] as string | undefined}
      onChange={(event) => set({ [key]: event.currentTarget.value })}
    />
  )
  return (
    <Stack gap="sm" maw={480}>
      <Select
        label="Parameters in the visitor’s address"
        allowDeselect={false}
        readOnly={readOnly}
        data={passings}
        value={options.passQuery ?? 'off'}
        onChange={(value) => set({ passQuery: value as LinkDefaults['passQuery'] })}
      />
      <Select
        label="Referrer"
        allowDeselect={false}
        readOnly={readOnly}
        data={referrers}
        value={options.referrer ?? 'keep'}
        onChange={(value) => set({ referrer: value as LinkDefaults['referrer'] })}
      />
      {optionSwitches.map(({ key, label }) => (
        <Checkbox
          key={key}
          label={label}
          disabled={readOnly}
          checked={options[key] ?? false}
          onChange={(event) => set({ [key]: event.currentTarget.checked })}
        />
      ))}
      {text('anchorText', 'Text of the link in HTML', 'the title')}
      {text('titleAttribute', 'Title attribute in HTML', 'none')}
    </Stack>
  )
}
