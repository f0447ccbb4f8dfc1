import { Button, Group, Menu, Select, Text, TextInput, Title } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { api, read } from '../../api/client'
import { vocabulary, type Tag } from '../../api/vocabulary'
import { AddForm } from '../../parts/AddForm'
import { channelColors } from '../../parts/channelColors'
import { NameActions } from '../../parts/NameActions'
import { count, counted } from '../../parts/format/numbers'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { TagPills } from '../../parts/TagPill'
import { mayEdit, useSession } from '../access/session'
import { asList } from './filter/linksSearch'
import { FoldersList } from './FoldersList'

const colors = channelColors.map((label, value) => ({ value: String(value), label }))

/** Tags with their colours, and folders: what links are found again by. */
export function TagsSection() {
  const tags = useQuery(vocabulary.tags)
  const session = useSession()
  const queries = useQueryClient()
  const form = useForm({ initialValues: { name: '' } })
  const add = useMutation({
    mutationFn: (body: typeof form.values) => read(api.POST('/api/v1/tags', { body })),
    onSuccess: async () => {
      form.reset()
      await queries.invalidateQueries({ queryKey: ['tags'] })
    },
  })
  if (tags.isError) return <Failed error={tags.error} onRetry={() => void tags.refetch()} />
  if (!tags.data) return <Loading />
  return (
    <>
      <Title order={2} size={18} mb={4}>
        Tags
      </Title>
      {tags.data.length === 0 ? (
        <Text c="dimmed">No tags yet. You can also create a tag by typing it when you create links.</Text>
      ) : (
        <Sheet
          about="Links can have any number of tags. Type a new tag anywhere to create it. Renaming a tag changes it on all its links."
          columns={['Tag', 'Links', 'Colour', '']}
        >
          {tags.data.map((tag) => (
            <TagRow key={tag.id} tag={tag} others={tags.data} mayChange={session?.role === 'owner'} />
          ))}
        </Sheet>
      )}
      {mayEdit(session) && (
        <AddForm error={add.error} onSubmit={form.onSubmit((values) => add.mutate(values))}>
          <TextInput label="New tag" required {...form.getInputProps('name')} />
          <Button type="submit" loading={add.isPending}>
            Add tag
          </Button>
        </AddForm>
      )}
      <FoldersList />
    </>
  )
}

function TagRow({ tag, others, mayChange }: { tag: Tag; others: Tag[]; mayChange: boolean }) {
  const queries = useQueryClient()
  const path = { params: { path: { id: tag.id } } }
  const refresh = () =>
    Promise.all([['tags'], ['links']].map((queryKey) => queries.invalidateQueries({ queryKey })))
  const change = useMutation({
    mutationFn: (body: { name?: string; color?: number }) =>
      read(api.PATCH('/api/v1/tags/{id}', { ...path, body })),
    onSuccess: refresh,
  })
  const merge = useMutation({
    mutationFn: (into: string) => read(api.POST('/api/v1/tags/{id}/merge', { ...path, body: { into } })),
    onSuccess: refresh,
  })
  return (
    <tr>
      <td>
        <Link to="/links" search={{ tag: asList([tag.name]) }} style={{ color: 'inherit' }}>
          <TagPills names={[tag.name]} />
        </Link>
      </td>
      <td>{count(tag.links)}</td>
      <td>
        {mayChange ? (
          <Select
            aria-label={`Colour of ${tag.name}`}
            size="sm"
            w={140}
            allowDeselect={false}
            data={colors}
            value={String(tag.color)}
            onChange={(color) => change.mutate({ color: Number(color) })}
          />
        ) : (
          colors[tag.color]?.label
        )}
      </td>
      <td style={{ textAlign: 'right' }}>
        <Group gap={8} justify="flex-end" wrap="nowrap">
          {mayChange && others.length > 1 && (
            <Menu position="bottom-end">
              <Menu.Target>
                <Button
                  size="compact-sm"
                  variant="subtle"
                  loading={merge.isPending}
                  aria-label={`Merge ${tag.name} into another tag`}
                >
                  Merge
                </Button>
              </Menu.Target>
              <Menu.Dropdown mah={320} style={{ overflowY: 'auto' }}>
                <Menu.Label>
                  {counted(tag.links, 'link')} get the other tag, and “{tag.name}” is gone
                </Menu.Label>
                {others
                  .filter((other) => other.id !== tag.id)
                  .map((other) => (
                    <Menu.Item key={other.id} onClick={() => merge.mutate(other.id)}>
                      {other.name}
                    </Menu.Item>
                  ))}
              </Menu.Dropdown>
            </Menu>
          )}
          {mayChange && (
            <NameActions
              name={tag.name}
              loses={tag.links > 0 ? 'It is removed from its links.' : undefined}
              onRename={(name) => change.mutateAsync({ name })}
              onDelete={() => read(api.DELETE('/api/v1/tags/{id}', path)).then(refresh)}
            />
          )}
        </Group>
        {merge.isError && <Failed error={merge.error} />}
      </td>
    </tr>
  )
}
