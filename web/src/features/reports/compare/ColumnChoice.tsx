import { Button, Checkbox, Popover, Stack } from '@mantine/core'
import { columns, type Figure } from './figures'

interface Props {
  possible: readonly Figure[]
  without: string[]
  onChoose: (without: string) => void
}

/** Which figures the table shows; clicks always. */
export function ColumnChoice({ possible, without, onChoose }: Props) {
  return (
    <Popover position="bottom-end" trapFocus withRoles={false}>
      <Popover.Target>
        <Button variant="subtle" size="compact-sm" fw={400}>
          Columns
        </Button>
      </Popover.Target>
      <Popover.Dropdown>
        <Stack gap={8}>
          {possible
            .filter((c) => c.key !== 'clicks')
            .map((c) => (
              <Checkbox
                key={c.key}
                size="sm"
                label={c.label}
                checked={!without.includes(c.key)}
                onChange={(event) =>
                  onChoose(
                    columns
                      .map((each) => each.key)
                      .filter((key) => (key === c.key ? !event.currentTarget.checked : without.includes(key)))
                      .join(','),
                  )
                }
              />
            ))}
        </Stack>
      </Popover.Dropdown>
    </Popover>
  )
}
