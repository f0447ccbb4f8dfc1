import { Button, Group, MultiSelect, NumberInput, Stack, TagsInput, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { countries } from '../../../api/countries'
import { seenQuery, type ConditionProps, type When } from './routes'

/** Systems that are suggested before anybody has clicked. */
const systems = ['Android', 'iOS', 'Windows', 'macOS', 'Linux', 'Chrome OS']

/** Conditions that are asked for less often; open where the rule has one of them. */
export function MoreConditions(props: ConditionProps) {
  const [isOpen, setIsOpen] = useState(() => hasOne(props.when))
  if (isOpen) return <Fields {...props} />
  return (
    <Group>
      <Button size="compact-sm" variant="subtle" onClick={() => setIsOpen(true)}>
        More conditions
      </Button>
    </Group>
  )
}

const hasOne = ({ notCountries, systems, networks, query, first }: When) =>
  Boolean(notCountries?.length || systems?.length || networks?.length || query || first)

function Fields({ when, errorOf, onChange }: ConditionProps) {
  const seenSystems = useQuery(seenQuery('os'))
  const seenNetworks = useQuery(seenQuery('network'))
  return (
    <Stack gap="sm">
      <MultiSelect
        label="Not in"
        placeholder={when.notCountries?.length ? '' : 'no exception'}
        searchable
        data={countries}
        value={[...(when.notCountries ?? [])]}
        error={errorOf('notCountries')}
        onChange={(chosen) => onChange({ notCountries: chosen })}
      />
      <TagsInput
        label="Operating system"
        placeholder={when.systems?.length ? '' : 'any system'}
        data={[...new Set([...systems, ...(seenSystems.data ?? [])])]}
        value={[...(when.systems ?? [])]}
        error={errorOf('systems')}
        onChange={(chosen) => onChange({ systems: chosen })}
      />
      <TagsInput
        label="Coming from"
        description="Networks, as reports name them"
        placeholder={when.networks?.length ? '' : 'anywhere'}
        data={seenNetworks.data ?? []}
        value={[...(when.networks ?? [])]}
        error={errorOf('networks')}
        onChange={(chosen) => onChange({ networks: chosen })}
      />
      <Group gap={8} grow align="start">
        <TextInput
          label="With the parameter"
          placeholder="none"
          value={when.query?.name ?? ''}
          error={errorOf('query')}
          onChange={(event) => {
            const name = event.currentTarget.value
            onChange({ query: name ? { ...when.query, name } : null })
          }}
        />
        <TextInput
          label="Equal to"
          placeholder="any value"
          disabled={!when.query}
          value={when.query?.equals ?? ''}
          onChange={(event) =>
            onChange({ query: { name: when.query?.name ?? '', equals: event.currentTarget.value || null } })
          }
        />
      </Group>
      <NumberInput
        label="Only the first so many people"
        description="Not counting bots and your team. Where several servers answer, a busy second can let a few more through."
        placeholder="everyone"
        min={1}
        allowDecimal={false}
        value={when.first ?? ''}
        error={errorOf('first')}
        onChange={(first) => onChange({ first: typeof first === 'number' ? first : null })}
      />
    </Stack>
  )
}
