import { Chip, Fieldset, Group, MultiSelect, Stack, TagsInput, Text, TextInput } from '@mantine/core'
import { countries } from '../../../api/countries'
import { SpanFields } from '../../../parts/SpanFields'
import { devices } from './devices'
import { MoreConditions } from './MoreConditions'
import type { ConditionProps, When } from './routes'

const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']

/** For whom a rule holds. */
export function ConditionFields({ when, errorOf, onChange, isNew }: ConditionProps & { isNew: boolean }) {
  return (
    <Fieldset legend="For visitors" variant="unstyled">
      <Stack gap="sm">
        {errorOf() && (
          <Text size="sm" c="red" role="alert">
            {errorOf()}
          </Text>
        )}
        <MultiSelect
          label="On"
          placeholder={when.devices?.length ? '' : 'any device'}
          autoFocus={isNew}
          data={devices}
          value={[...(when.devices ?? [])]}
          onChange={(chosen) => onChange({ devices: chosen as When['devices'] })}
        />
        <MultiSelect
          label="In"
          placeholder={when.countries?.length ? '' : 'any country'}
          searchable
          data={countries}
          value={[...(when.countries ?? [])]}
          error={errorOf('countries')}
          onChange={(chosen) => onChange({ countries: chosen })}
        />
        <TagsInput
          label="Reading"
          description="Language tags, such as de or fr-CA"
          placeholder={when.languages?.length ? '' : 'any language'}
          value={[...(when.languages ?? [])]}
          error={errorOf('languages')}
          onChange={(chosen) => onChange({ languages: chosen })}
        />
        <div>
          <Text size="sm" fw={600} mb={4} id="rule-days">
            On weekdays
          </Text>
          <Chip.Group
            multiple
            value={(when.weekdays ?? []).map(String)}
            onChange={(chosen) => onChange({ weekdays: chosen.map(Number) })}
          >
            <Group gap={4} role="group" aria-labelledby="rule-days">
              {weekdays.map((day, place) => (
                <Chip key={day} size="xs" value={String(place + 1)}>
                  {day}
                </Chip>
              ))}
            </Group>
          </Chip.Group>
        </div>
        <TextInput
          label="Between the hours"
          placeholder="08:00-18:00"
          value={when.hours ?? ''}
          error={errorOf('hours')}
          onChange={(event) => onChange({ hours: event.currentTarget.value || null })}
        />
        <SpanFields
          of="this rule"
          labels={['From', 'Until']}
          outside="Outside this time, the rules below decide."
          opensAt={when.from ?? ''}
          endsAt={when.until ?? ''}
          onOpensAt={(from) => onChange({ from: from || null })}
          onEndsAt={(until) => onChange({ until: until || null })}
          opensError={errorOf('from')}
          endsError={errorOf('until')}
        />
        <MoreConditions when={when} errorOf={errorOf} onChange={onChange} />
      </Stack>
    </Fieldset>
  )
}
