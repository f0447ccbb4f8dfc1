import { Button, Drawer, Group, Select, Stack, Switch, Text, TextInput, Title } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read, wordsOf } from '../../../api/client'
import { copy } from '../../../parts/files/copy'
import { day } from '../../../parts/format/numbers'
import { Failed } from '../../../parts/States'
import classes from './SavedViews.module.css'
import type { SavedView, ViewShare } from './views'

interface Props {
  view: SavedView
  isOpen: boolean
  onClose: () => void
  mayChange: boolean
}

/** A saved view: its name, whether it is pinned, and the addresses under which people without an account read it. */
export function ViewDrawer({ view, isOpen, onClose, mayChange }: Props) {
  const queries = useQueryClient()
  const again = () => queries.invalidateQueries({ queryKey: ['views'] })
  const path = { params: { path: { id: view.id } } }
  const [name, setName] = useState(view.name)
  const change = useMutation({
    mutationFn: (body: { name?: string; isPinned?: boolean }) =>
      read(api.PATCH('/api/v1/views/{id}', { ...path, body })),
    onSuccess: again,
  })
  const remove = useMutation({
    mutationFn: () => read(api.DELETE('/api/v1/views/{id}', path)),
    onSuccess: async () => {
      onClose()
      await again()
    },
  })
  return (
    <Drawer opened={isOpen} onClose={onClose} position="right" size={460} title={view.name}>
      <Stack gap="md">
        <Text size="sm" c="dimmed">
          {view.createdBy ? `Saved by ${view.createdBy} on ` : 'Saved on '}
          {day(view.createdAt.slice(0, 10))}
        </Text>
        {mayChange && (
          <>
            <form
              onSubmit={(event) => {
                event.preventDefault()
                change.mutate({ name })
              }}
            >
              <Group align="end" gap={8} wrap="nowrap">
                <TextInput
                  label="Name"
                  value={name}
                  onChange={(event) => setName(event.currentTarget.value)}
                  error={change.error && wordsOf(change.error)}
                  style={{ flex: 1 }}
                />
                <Button
                  type="submit"
                  variant="default"
                  disabled={name.trim() === view.name}
                  loading={change.isPending}
                >
                  Rename
                </Button>
              </Group>
            </form>
            <Switch
              label="Pinned to the top of Compare"
              checked={view.isPinned}
              onChange={(event) => change.mutate({ isPinned: event.currentTarget.checked })}
            />
          </>
        )}
        <Shares view={view} mayChange={mayChange} onChange={again} />
        {mayChange && (
          <Button variant="subtle" color="red" onClick={() => remove.mutate()} loading={remove.isPending}>
            {view.shares.length > 0
              ? `Delete the view and end ${view.shares.length === 1 ? 'its address' : `its ${view.shares.length} addresses`}`
              : 'Delete view'}
          </Button>
        )}
        {remove.error && <Failed error={remove.error} />}
      </Stack>
    </Drawer>
  )
}

const terms = [
  { value: '7', label: 'for 7 days' },
  { value: '30', label: 'for 30 days' },
  { value: '90', label: 'for 90 days' },
  { value: '', label: 'until revoked' },
]

function Shares({
  view,
  mayChange,
  onChange,
}: {
  view: SavedView
  mayChange: boolean
  onChange: () => Promise<void>
}) {
  const form = useForm({ initialValues: { name: '', days: '30' } })
  const make = useMutation({
    mutationFn: ({ name, days }: typeof form.values) =>
      read(
        api.POST('/api/v1/views/{id}/shares', {
          params: { path: { id: view.id } },
          body: { name, days: days ? Number(days) : null },
        }),
      ),
    onSuccess: async () => {
      form.reset()
      await onChange()
    },
  })
  const address = make.data && `${location.origin}/shared/${make.data.secret}`
  return (
    <section aria-label="Shared with">
      <Title order={3} size={16} mb={4}>
        Share without an account
      </Title>
      <Text size="sm" c="dimmed" mb="sm">
        Anyone with the link can see this report, always up to date, and nothing else in the workspace.
      </Text>
      {view.shares.map((share) => (
        <Share key={share.id} view={view} share={share} mayChange={mayChange} onChange={onChange} />
      ))}
      {mayChange && (
        <form onSubmit={form.onSubmit((values) => make.mutate(values))}>
          <Stack gap="sm" mt="sm">
            <TextInput
              label="Recipient"
              placeholder="The trustees"
              required
              {...form.getInputProps('name')}
              error={make.error && wordsOf(make.error)}
            />
            <Select label="How long" data={terms} {...form.getInputProps('days')} />
            <Button type="submit" variant="default" loading={make.isPending}>
              Create link
            </Button>
          </Stack>
        </form>
      )}
      {address && (
        <Stack gap="xs" mt="md" role="status">
          <div className={classes.secret}>{address}</div>
          <Group gap={8}>
            <Button size="sm" onClick={() => void copy('Address', address)}>
              Copy link
            </Button>
            <Text size="sm" c="dimmed">
              Shown only once.
            </Text>
          </Group>
        </Stack>
      )}
    </section>
  )
}

interface ShareProps {
  view: SavedView
  share: ViewShare
  mayChange: boolean
  onChange: () => Promise<void>
}

function Share({ view, share, mayChange, onChange }: ShareProps) {
  const takeBack = useMutation({
    mutationFn: () =>
      read(
        api.DELETE('/api/v1/views/{id}/shares/{share}', {
          params: { path: { id: view.id, share: share.id } },
        }),
      ),
    onSuccess: onChange,
  })
  return (
    <div className={classes.share}>
      <span>{share.name}</span>
      {mayChange && (
        <Button
          size="compact-sm"
          variant="subtle"
          color="red"
          loading={takeBack.isPending}
          onClick={() => takeBack.mutate()}
          aria-label={`Revoke the link for ${share.name}`}
        >
          Revoke
        </Button>
      )}
      <Text size="sm" c="dimmed" style={{ gridColumn: 1 }}>
        {[
          share.expiresAt === null ? 'until revoked' : `until ${day(share.expiresAt.slice(0, 10))}`,
          share.lastSeenAt ? `last opened ${day(share.lastSeenAt.slice(0, 10))}` : 'not opened yet',
        ].join(' · ')}
      </Text>
      {takeBack.error && <Failed error={takeBack.error} />}
    </div>
  )
}
