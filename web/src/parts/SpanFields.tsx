import { Fieldset, Group, Input, Stack, Text, TextInput } from '@mantine/core'
import type { ReactNode } from 'react'
import { useWorkspaceZone } from '../features/access/session'

interface Props {
  opensAt: string
  endsAt: string
  onOpensAt: (opensAt: string) => void
  onEndsAt: (endsAt: string) => void
  opensError?: ReactNode
  endsError?: ReactNode
  /** Whom the fields belong to where several stand on a page. */
  of?: string
  /** What beginning and end are called. */
  labels?: readonly [string, string]
  /** What happens outside of the time. */
  outside?: string
}

/** When a link opens and ends, as {@link openingOf} and {@link endOf} write it; empty for always. */
export function SpanFields({
  of,
  labels = ['Opens', 'Ends'],
  outside = 'Outside this time, visitors go to the fallback.',
  ...props
}: Props) {
  const timeZone = useWorkspaceZone()
  return (
    <Fieldset legend={of ? `Time of ${of}` : 'Time'} variant="unstyled" m={0} p={0}>
      <Stack gap="sm">
        <BoundField
          label={labels[0]}
          of={of}
          value={props.opensAt}
          onChange={props.onOpensAt}
          error={props.opensError}
        />
        <BoundField
          label={labels[1]}
          of={of}
          value={props.endsAt}
          onChange={props.onEndsAt}
          error={props.endsError}
        />
        <Text size="xs" c="dimmed">
          Time zone: {timeZone}. A date without a time means the whole day. {outside}
        </Text>
      </Stack>
    </Fieldset>
  )
}

interface BoundProps {
  label: string
  of: string | undefined
  value: string
  onChange: (value: string) => void
  error: ReactNode
}

/** A day, and perhaps a time of it. */
function BoundField({ label, of, value, onChange, error }: BoundProps) {
  const [day = '', time = ''] = value.split('T')
  const name = (what: string) => (of ? `${label} ${what} for ${of}` : `${label} ${what}`)
  return (
    <Input.Wrapper label={label} labelElement="div" error={error}>
      <Group gap={6} wrap="nowrap" grow preventGrowOverflow={false}>
        <TextInput
          type="date"
          aria-label={name('on')}
          error={Boolean(error)}
          value={day}
          onChange={({ currentTarget: { value: typed } }) =>
            onChange(typed && time ? `${typed}T${time}` : typed)
          }
        />
        <TextInput
          type="time"
          aria-label={name('at')}
          disabled={!day}
          error={Boolean(error)}
          value={time}
          onChange={({ currentTarget: { value: typed } }) => onChange(typed ? `${day}T${typed}` : day)}
        />
      </Group>
    </Input.Wrapper>
  )
}
