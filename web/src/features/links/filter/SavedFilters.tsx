import { Button, Group, Menu, Popover, Stack, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { IconBookmark } from '@tabler/icons-react'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link as RouterLink } from '@tanstack/react-router'
import { useState } from 'react'
import { api, read, wordsOf } from '../../../api/client'
import { NameActions } from '../../../parts/NameActions'
import { mayEdit, useSession } from '../../access/session'
import { filtersQuery } from '../links'
import { fromKeptFilter, isNarrowed, keptFilter, type LinksSearch } from './linksSearch'

/** Filters that are kept under a name, and keeping this one. */
export function SavedFilters({ search }: { search: LinksSearch }) {
  const session = useSession()
  const queries = useQueryClient()
  const kept = useQuery(filtersQuery)
  const now = keptFilter(search)
  const current = kept.data?.find((filter) => filter.filter === now)
  const changed = () => queries.invalidateQueries({ queryKey: ['saved-filters'] })
  const path = { path: { id: current?.id ?? '' } }
  return (
    <>
      <Menu position="bottom-end">
        <Menu.Target>
          <Button variant="default" size="sm" leftSection={<IconBookmark size={15} aria-hidden />}>
            {current?.name ?? 'Saved'}
          </Button>
        </Menu.Target>
        <Menu.Dropdown mah={420} style={{ overflowY: 'auto' }}>
          {kept.data?.length === 0 && (
            <Menu.Label>No saved filters yet. Filter the list, then choose Save filter.</Menu.Label>
          )}
          {kept.data?.map((filter) => (
            <Menu.Item
              key={filter.id}
              renderRoot={(props) => (
                <RouterLink
                  to="/links"
                  search={{ ...fromKeptFilter(filter.filter), view: search.view }}
                  {...props}
                />
              )}
            >
              {filter.name}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
      {mayEdit(session) && current && (
        <NameActions
          key={current.id}
          name={current.name}
          onRename={(name) =>
            read(api.PATCH('/api/v1/saved-filters/{id}', { params: path, body: { name } })).then(changed)
          }
          onDelete={() => read(api.DELETE('/api/v1/saved-filters/{id}', { params: path })).then(changed)}
        />
      )}
      {mayEdit(session) && isNarrowed(search) && !search.batch && !current && <Keep filter={now} />}
    </>
  )
}

function Keep({ filter }: { filter: string }) {
  const [isOpen, setIsOpen] = useState(false)
  const queries = useQueryClient()
  const form = useForm({ initialValues: { name: '' } })
  const keep = useMutation({
    mutationFn: ({ name }: typeof form.values) =>
      read(api.POST('/api/v1/saved-filters', { body: { name, filter } })),
    onSuccess: async () => {
      form.reset()
      setIsOpen(false)
      await queries.invalidateQueries({ queryKey: ['saved-filters'] })
    },
  })
  return (
    <Popover
      opened={isOpen}
      onChange={setIsOpen}
      position="bottom-end"
      width={300}
      trapFocus
      withRoles={false}
    >
      <Popover.Target>
        <Button
          variant="subtle"
          size="sm"
          leftSection={<IconBookmark size={15} aria-hidden />}
          onClick={() => setIsOpen((open) => !open)}
        >
          Save filter
        </Button>
      </Popover.Target>
      <Popover.Dropdown>
        <form onSubmit={form.onSubmit((values) => keep.mutate(values))}>
          <Stack gap="sm">
            <TextInput
              label="Filter name"
              required
              data-autofocus
              {...form.getInputProps('name')}
              error={keep.error && wordsOf(keep.error)}
            />
            <Group>
              <Button type="submit" loading={keep.isPending}>
                Save
              </Button>
            </Group>
          </Stack>
        </form>
      </Popover.Dropdown>
    </Popover>
  )
}
