import { Button, Group, Menu } from '@mantine/core'
import { notifications } from '@mantine/notifications'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read } from '../../api/client'
import { Failed } from '../../parts/States'
import { checksChanged, type CarePage } from './checks'
import { LeadElsewhere } from './LeadElsewhere'

const spells = [
  { days: 7, label: 'A week' },
  { days: 30, label: 'A month' },
  { days: 90, label: 'Three months' },
]

/** What can be done about a page. */
export function AttentionActions({ page }: { page: CarePage }) {
  const queries = useQueryClient()
  const [doing, setDoing] = useState<'replace' | 'meanwhile'>()
  const params = { params: { path: { id: page.id } } }
  const onSuccess = (seen: CarePage, told: string) => {
    notifications.show({ message: told })
    void checksChanged(queries)
    return seen
  }
  const ask = useMutation({
    mutationFn: () => read(api.POST('/api/v1/link-checks/{id}/again', params)),
    onSuccess: (seen) => onSuccess(seen, seen.text),
  })
  const accept = useMutation({
    mutationFn: () => read(api.POST('/api/v1/link-checks/{id}/accept', params)),
    onSuccess: (seen) => onSuccess(seen, 'Marked as fine'),
  })
  const ignore = useMutation({
    mutationFn: (days: number) =>
      read(api.PUT('/api/v1/link-checks/{id}/ignored', { ...params, body: { days } })),
    onSuccess: (seen) => onSuccess(seen, 'Ignored for now'),
  })
  const heed = useMutation({
    mutationFn: () => read(api.DELETE('/api/v1/link-checks/{id}/ignored', params)),
    onSuccess: (seen) => onSuccess(seen, 'Back in the list'),
  })
  const error = ask.error ?? accept.error ?? ignore.error ?? heed.error
  return (
    <>
      <Group gap={8} mt={8}>
        <Button
          size="compact-md"
          variant={doing === 'replace' ? 'light' : 'default'}
          aria-expanded={doing === 'replace'}
          onClick={() => setDoing(doing === 'replace' ? undefined : 'replace')}
        >
          {page.verdict === 'redirected' ? 'Use the new address' : 'Change destination'}
        </Button>
        {page.isDead && (
          <Button
            size="compact-md"
            variant={doing === 'meanwhile' ? 'light' : 'default'}
            aria-expanded={doing === 'meanwhile'}
            onClick={() => setDoing(doing === 'meanwhile' ? undefined : 'meanwhile')}
          >
            Use fallback for now
          </Button>
        )}
        {!page.isDead && (
          <Button
            size="compact-md"
            variant="default"
            loading={accept.isPending}
            onClick={() => accept.mutate()}
          >
            Mark as fine
          </Button>
        )}
        <Button size="compact-md" variant="subtle" loading={ask.isPending} onClick={() => ask.mutate()}>
          Check now
        </Button>
        {page.ignoredUntil ? (
          <Button size="compact-md" variant="subtle" loading={heed.isPending} onClick={() => heed.mutate()}>
            Stop ignoring
          </Button>
        ) : (
          <Menu position="bottom-start">
            <Menu.Target>
              <Button size="compact-md" variant="subtle" loading={ignore.isPending}>
                Ignore for a while
              </Button>
            </Menu.Target>
            <Menu.Dropdown>
              {spells.map(({ days, label }) => (
                <Menu.Item key={days} onClick={() => ignore.mutate(days)}>
                  {label}
                </Menu.Item>
              ))}
            </Menu.Dropdown>
          </Menu>
        )}
      </Group>
      {doing && <LeadElsewhere key={doing} page={page} what={doing} onDone={() => setDoing(undefined)} />}
      {error && <Failed error={error} />}
    </>
  )
}
