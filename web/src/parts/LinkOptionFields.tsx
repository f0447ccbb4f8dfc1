import { Checkbox, NumberInput, Select, Textarea, TextInput } from '@mantine/core'
import type { Schema } from '../api/client'
import { inPanel } from './inPanel'
import { linkOptions, type LinkOption } from '../api/linkOptions'

export type LinkOptionsPatch = Partial<Schema['LinkOptionsPatch']>

interface Props {
  /** Those of one section; all where it is left out. */
  section?: LinkOption['section']
  /** What is said here. */
  options: LinkOptionsPatch
  /** What applies where nothing is said here; switches are answered by yes or no where that isn’t known. */
  given?: LinkOptionsPatch
  /** Shown for a choice about which nothing is said; without it something always is. */
  unsaid?: string
  /** Whom the fields belong to, for their names: "all rows" or a channel. */
  of?: string
  size?: 'sm'
  readOnly?: boolean
  errors?: Record<string, unknown>
  /** @param change The option that was changed; null where nothing is said any more. */
  onChange: (change: LinkOptionsPatch) => void
}

/** Texts that are longer than this stand on several lines. */
const oneLine = 200

/** The options of a link as form fields, as the server describes them. */
export function LinkOptionFields({ section, ...props }: Props) {
  return linkOptions
    .filter((option) => section === undefined || option.section === section)
    .map((option) => <LinkOptionField key={option.key} option={option} {...props} />)
}

function LinkOptionField({
  option,
  options,
  given,
  unsaid,
  of,
  size,
  readOnly,
  errors = {},
  onChange,
}: Omit<Props, 'section'> & { option: LinkOption }) {
  const { key, label } = option
  const value = options[key]
  const change = (next: unknown) => onChange({ [key]: next })
  if (option.kind === 'switch' && (given || unsaid === undefined))
    return (
      <Checkbox
        label={label}
        disabled={readOnly}
        checked={Boolean(value ?? given?.[key])}
        onChange={(event) => change(event.currentTarget.checked)}
      />
    )
  const field = {
    size,
    label,
    'aria-label': of && `${label} for ${of}`,
    description: option.description,
    readOnly,
    error: errors[`options.${key}`] as string | undefined,
  }
  if (option.kind === 'switch')
    return (
      <Select
        {...field}
        clearable
        placeholder={unsaid}
        comboboxProps={inPanel}
        data={[
          { value: 'true', label: 'Yes' },
          { value: 'false', label: 'No' },
        ]}
        value={value == null ? null : String(value)}
        onChange={(next) => change(next === null ? null : next === 'true')}
      />
    )
  if (option.kind === 'choice')
    return (
      <Select
        {...field}
        allowDeselect={unsaid !== undefined}
        clearable={unsaid !== undefined}
        placeholder={unsaid}
        comboboxProps={inPanel}
        data={[...option.choices]}
        value={value == null ? (unsaid === undefined ? option.choices[0].value : null) : String(value)}
        onChange={change}
      />
    )
  if (option.kind === 'number')
    return (
      <NumberInput
        {...field}
        placeholder={option.placeholder}
        min={0}
        max={option.max}
        step={100}
        allowDecimal={false}
        value={typeof value === 'number' ? value : ''}
        onChange={(next) => change(next === '' ? null : next)}
      />
    )
  const text = {
    ...field,
    placeholder: option.placeholder,
    maxLength: option.max,
    value: typeof value === 'string' ? value : '',
    onChange: (event: { currentTarget: { value: string } }) => change(event.currentTarget.value),
  }
  return option.max > oneLine ? <Textarea rows={2} {...text} /> : <TextInput {...text} />
}
