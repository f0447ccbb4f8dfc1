import { Alert, Button, Group, List, Progress, Select, Text, Title } from '@mantine/core'
import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { api, read, wordsOf } from '../../api/client'
import { count, day } from '../../parts/format/numbers'
import { timeZones } from '../../parts/format/timeZones'
import { useSession } from '../access/session'

const timeZoneQuery = queryOptions({
  queryKey: ['time-zone'],
  queryFn: () => read(api.GET('/api/v1/workspace/time-zone')),
  refetchInterval: ({ state }) => (state.data?.next ? 1000 : false),
})

/** By whose clock days are cut. Another zone means that past days are counted again, so that it says what changes first. */
export function TimeZoneField({ keptFrom }: { keptFrom: string | null }) {
  const session = useSession()
  const mayChange = session?.role === 'owner'
  const queries = useQueryClient()
  const state = useQuery(timeZoneQuery)
  const [chosen, setChosen] = useState<string>()
  const now = state.data?.timeZone
  const next = state.data?.next
  const change = useMutation({
    mutationFn: (timeZone: string) => read(api.PUT('/api/v1/workspace/time-zone', { body: { timeZone } })),
    onSuccess: (begun) => {
      setChosen(undefined)
      queries.setQueryData(timeZoneQuery.queryKey, begun)
    },
  })
  const cancel = useMutation({
    mutationFn: () => read(api.DELETE('/api/v1/workspace/time-zone/change')),
    onSettled: () => state.refetch(),
  })
  const zoneOfSession = session?.timeZone
  useEffect(() => {
    // All days are others now.
    if (now && zoneOfSession && now !== zoneOfSession) void queries.invalidateQueries()
  }, [now, zoneOfSession, queries])
  if (!state.data) return null
  return (
    <section aria-label="Time zone">
      <Title order={2} size={18} mt="xl" mb={4}>
        Time zone
      </Title>
      <Select
        maw={480}
        label="Days and hours of reports follow"
        searchable
        allowDeselect={false}
        disabled={!mayChange || next != null}
        data={timeZones.includes(state.data.timeZone) ? timeZones : [...timeZones, state.data.timeZone]}
        value={next ?? chosen ?? state.data.timeZone}
        onChange={(zone) => zone && setChosen(zone === state.data.timeZone ? undefined : zone)}
        error={change.error && wordsOf(change.error)}
      />
      {state.data.failure && (
        <Text role="alert" size="sm" mt={6} c="var(--bad)">
          {state.data.failure}
        </Text>
      )}
      {next && (
        <div role="status">
          <Group mt="sm" gap="sm" maw={480} wrap="nowrap">
            <Progress
              flex={1}
              aria-label="Clicks counted again"
              value={(100 * state.data.counted) / Math.max(1, state.data.clicks)}
            />
            <Button size="compact-sm" variant="subtle" onClick={() => cancel.mutate()}>
              Cancel
            </Button>
          </Group>
          <Text size="sm" c="dimmed" mt={4}>
            {count(state.data.counted)} of {count(state.data.clicks)} clicks counted in {next}. You can leave
            this page; reports use {state.data.timeZone} until it is done.
          </Text>
        </div>
      )}
      {chosen && !next && (
        <Alert mt="md" maw={640} role="alertdialog" variant="default" title={`Change to ${chosen}?`}>
          <List size="sm" spacing={4}>
            <List.Item>
              All past days, weeks and hours are counted again in the background. Reports show the present
              ones until that is done, and new clicks appear afterwards.
            </List.Item>
            <List.Item>Scheduled links open and end at the same moment as before.</List.Item>
            <List.Item>
              Publishing dates, date ranges in saved views and audience sizes stay as they are.
            </List.Item>
            <List.Item>Visitors who came around the old midnight may count twice on a past day.</List.Item>
            {keptFrom && (
              <List.Item>
                Days before {day(keptFrom)} stay as they are: their individual clicks have been deleted.
              </List.Item>
            )}
          </List>
          <Group mt="sm" mb={4} gap={8}>
            <Button loading={change.isPending} onClick={() => change.mutate(chosen)}>
              Change time zone
            </Button>
            <Button variant="default" autoFocus onClick={() => setChosen(undefined)}>
              Cancel
            </Button>
          </Group>
        </Alert>
      )}
    </section>
  )
}
