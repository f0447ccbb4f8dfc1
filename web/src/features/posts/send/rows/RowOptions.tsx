import { ActionIcon, TextInput, Tooltip } from '@mantine/core'
import { IconAdjustmentsHorizontal } from '@tabler/icons-react'
import type { Domain } from '../../../../api/vocabulary'
import { agreedList } from '../../AgreedWords'
import { countSettings, type Row, type PostSettings } from '../draft'
import { OptionsPanel } from '../OptionsLater'

interface ButtonProps {
  name: string
  row: Row
  isOpen: boolean
  onToggle: () => void
}

/** Opens a row’s options below it; how many are set shows on it. */
export function RowOptionsButton({ name, row, isOpen, onToggle }: ButtonProps) {
  const set = countSettings(row.own)
  const label = set > 0 ? `Options for ${name}, ${set} set` : `Options for ${name}`
  return (
    <Tooltip label={label}>
      <ActionIcon
        id={`${row.id}-options`}
        variant={set > 0 || isOpen ? 'light' : 'subtle'}
        color={set > 0 || isOpen ? undefined : 'gray'}
        size={28}
        aria-label={label}
        aria-expanded={isOpen}
        onClick={onToggle}
      >
        {set > 0 ? <b>{set}</b> : <IconAdjustmentsHorizontal size={16} />}
      </ActionIcon>
    </Tooltip>
  )
}

interface PanelProps {
  name: string
  row: Row
  all: PostSettings
  destination: string
  domains: Domain[]
  onChange: (part: Partial<Row>) => void
  onClose: () => void
}

/** What one row has otherwise than the rest. */
export function RowOptionsPanel({ name, row, all, destination, domains, onChange, onClose }: PanelProps) {
  return (
    <OptionsPanel
      of={name}
      settings={row.own}
      given={all}
      destination={destination}
      domains={domains}
      isForOneRow
      onChange={(own) => onChange({ own })}
      onClose={onClose}
    >
      <TermAndContent name={name} row={row} onChange={onChange} />
    </OptionsPanel>
  )
}

/** The two UTM values that are rarely set; in use they stand in the row itself. */
export function TermAndContent({ name, row, onChange }: Pick<PanelProps, 'name' | 'row' | 'onChange'>) {
  return (
    <>
      <TextInput
        label="Term"
        size="sm"
        aria-label={`Term for ${name}`}
        placeholder="none"
        list={agreedList('term')}
        value={row.term}
        onChange={(event) => onChange({ term: event.currentTarget.value })}
      />
      <TextInput
        label="Content"
        size="sm"
        aria-label={`Content for ${name}`}
        placeholder={row.variant || 'none'}
        list={agreedList('content')}
        value={row.content}
        onChange={(event) => onChange({ content: event.currentTarget.value })}
      />
    </>
  )
}
