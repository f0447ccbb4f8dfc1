import { ActionIcon, Popover, Stack, TextInput, Tooltip } from '@mantine/core'
import { IconAdjustmentsHorizontal } from '@tabler/icons-react'
import type { Domain } from '../../api/vocabulary'
import { agreedList } from './AgreedWords'
import { countWishes, type Row, type Wishes } from './draft'
import { OptionsPanel } from './OptionsPanel'
import classes from './SendSheet.module.css'

interface Props {
  name: string
  row: Row
  all: Wishes
  domains: Domain[]
  onChange: (part: Partial<Row>) => void
}

/** What one row wants otherwise than the rest; how much that is shows on the button. */
export function RowOptions({ name, row, all, domains, onChange }: Props) {
  const words = [row.term, row.content].filter((text) => text.trim() !== '').length
  const set = countWishes(row.own) + words
  const label = set > 0 ? `Options for ${name}, ${set} set` : `Options for ${name}`
  return (
    <Popover position="left-start" width={340} trapFocus shadow="md">
      <Popover.Target>
        <Tooltip label={label}>
          <ActionIcon
            variant={set > 0 ? 'light' : 'subtle'}
            color={set > 0 ? undefined : 'gray'}
            size={28}
            aria-label={label}
          >
            {set > 0 ? <b>{set}</b> : <IconAdjustmentsHorizontal size={16} />}
          </ActionIcon>
        </Tooltip>
      </Popover.Target>
      <Popover.Dropdown className={classes.options} aria-label={`Options for ${name}`} lh={1.4}>
        <Stack gap={10} mb={10}>
          <TextInput
            label="Term"
            aria-label={`Term for ${name}`}
            placeholder="none"
            list={agreedList('term')}
            value={row.term}
            onChange={(event) => onChange({ term: event.currentTarget.value })}
          />
          <TextInput
            label="Content"
            aria-label={`Content for ${name}`}
            placeholder={row.variant || 'none'}
            list={agreedList('content')}
            value={row.content}
            onChange={(event) => onChange({ content: event.currentTarget.value })}
          />
        </Stack>
        <OptionsPanel
          of={name}
          wishes={row.own}
          given={all}
          domains={domains}
          isForOneRow
          onChange={(own) => onChange({ own })}
        />
      </Popover.Dropdown>
    </Popover>
  )
}
