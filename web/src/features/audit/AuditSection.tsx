import { Anchor, Button, Group, Select, Text, TextInput } from '@mantine/core'
import { useDebouncedValue } from '@mantine/hooks'
import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { within } from '../../api/address'
import { api, read } from '../../api/client'
import { counted, timeOf } from '../../parts/format/numbers'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { useSession } from '../access/session'
import { actions, placeOf, thingOf, type Action, type Entry } from './audit'

const patience = 300

interface Filter {
  person: string | null
  action: string | null
  query: string
  from: string
  to: string
}

/** Who did what, for owners. */
export function AuditSection() {
  const session = useSession()
  return session?.role === 'owner' ? (
    <AuditLog />
  ) : (
    <Text c="dimmed">Only owners can see who did what in this workspace.</Text>
  )
}

function AuditLog() {
  const [filter, setFilter] = useState<Filter>({ person: null, action: null, query: '', from: '', to: '' })
  const [typed] = useDebouncedValue(filter, patience)
  const asked = Object.fromEntries(Object.entries(typed).filter(([, value]) => value)) as Partial<
    Record<keyof Filter, string>
  >
  const entries = useInfiniteQuery({
    queryKey: ['audit', asked],
    queryFn: ({ pageParam }) =>
      read(
        api.GET('/api/v1/audit', {
          params: { query: { ...asked, limit: 100, cursor: pageParam ?? undefined } },
        }),
      ),
    initialPageParam: null as string | null,
    getNextPageParam: (page) => page.nextCursor,
    placeholderData: keepPreviousData,
  })
  const all = entries.data?.pages.flatMap((page) => page.items) ?? []
  const total = entries.data?.pages[0]?.total ?? 0
  return (
    <>
      <FilterFields filter={filter} onChange={(change) => setFilter({ ...filter, ...change })} />
      {entries.isError ? (
        <Failed error={entries.error} onRetry={() => void entries.refetch()} />
      ) : entries.isPending ? (
        <Loading />
      ) : total === 0 ? (
        <Text c="dimmed">No entries match.</Text>
      ) : (
        <>
          <Sheet
            about={`${counted(total, 'entry', 'entries')}. Entries can’t be changed and are kept for 400 days.`}
            columns={['Time', 'What happened']}
          >
            {all.map((entry) => (
              <EntryRow key={entry.id} entry={entry} />
            ))}
          </Sheet>
          <Group mt="sm">
            {entries.hasNextPage && (
              <Button
                variant="default"
                loading={entries.isFetchingNextPage}
                onClick={() => void entries.fetchNextPage()}
              >
                Show more
              </Button>
            )}
            <Anchor href={within(`/api/v1/audit.csv?${new URLSearchParams(asked)}`)} download>
              Export as CSV
            </Anchor>
          </Group>
        </>
      )}
    </>
  )
}

function FilterFields({ filter, onChange }: { filter: Filter; onChange: (change: Partial<Filter>) => void }) {
  const people = useQuery({
    queryKey: ['audit', 'people'],
    queryFn: () =>
      read(api.GET('/api/v1/audit/people', { params: { query: { limit: 500 } } })).then((page) => page.items),
  })
  return (
    <Group gap="sm" mb="md" role="search" aria-label="Filter the audit log" align="end">
      <Select
        label="Person"
        placeholder="Anybody"
        clearable
        searchable
        w={170}
        data={(people.data ?? []).map(({ id, name }) => ({ value: id, label: name }))}
        value={filter.person}
        onChange={(person) => onChange({ person })}
      />
      <Select
        label="What happened"
        placeholder="Anything"
        clearable
        w={210}
        data={(Object.keys(actions) as Action[]).map((value) => ({ value, label: actions[value] }))}
        value={filter.action}
        onChange={(action) => onChange({ action })}
      />
      <TextInput
        label="Name or change"
        w={170}
        value={filter.query}
        onChange={(event) => onChange({ query: event.currentTarget.value })}
      />
      <TextInput
        label="From"
        type="date"
        value={filter.from}
        onChange={(event) => onChange({ from: event.currentTarget.value })}
      />
      <TextInput
        label="To"
        type="date"
        value={filter.to}
        onChange={(event) => onChange({ to: event.currentTarget.value })}
      />
    </Group>
  )
}

function EntryRow({ entry }: { entry: Entry }) {
  const [thing, place] = [thingOf(entry), placeOf(entry)]
  return (
    <tr>
      <td style={{ whiteSpace: 'nowrap', width: 150 }}>{timeOf(entry.at)}</td>
      <td>
        <b>{entry.who}</b> {actions[entry.action]}{' '}
        {thing && place ? (
          <Anchor component={Link} to={place} underline="always">
            {thing}
          </Anchor>
        ) : (
          thing
        )}
        {(entry.detail ?? entry.token) && (
          <Text size="sm" c="dimmed" style={{ overflowWrap: 'anywhere' }}>
            {[entry.detail, entry.token && `with the API token “${entry.token}”`].filter(Boolean).join(' · ')}
          </Text>
        )}
      </td>
    </tr>
  )
}
