import { Button, Select, Text, TextInput, Title } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { api, read } from '../../api/client'
import { vocabulary, type Tag } from '../../api/vocabulary'
import { AddForm } from '../../parts/AddForm'
import { NameActions } from '../../parts/NameActions'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { TagPills } from '../../parts/TagPill'
import { mayEdit, useSession } from '../access/session'
import { FoldersList } from './FoldersList'

const colors = ['Plum', 'Teal', 'Rust', 'Olive', 'Blue', 'Moss', 'Umber', 'Mauve', 'Slate', 'Madder'].map(
  (label, value) => ({ value: String(value), label }),
)

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
        <Text c="dimmed">None yet. A new tag is also made by typing it wherever links are made.</Text>
      ) : (
        <Sheet
          about="A link has any number of tags. They are made by typing a new one wherever links are made; a renamed tag is renamed on all its links."
          columns={['Tag', 'Colour', '']}
        >
          {tags.data.map((tag) => (
            <TagRow key={tag.id} tag={tag} mayChange={session?.role === 'owner'} />
          ))}
        </Sheet>
      )}
      {mayEdit(session) && (
        <AddForm error={add.error} onSubmit={form.onSubmit((values) => add.mutate(values))}>
          <TextInput label="Name of a new tag" required {...form.getInputProps('name')} />
          <Button type="submit" loading={add.isPending}>
            Add tag
          </Button>
        </AddForm>
      )}
      <FoldersList />
    </>
  )
}

function TagRow({ tag, mayChange }: { tag: Tag; mayChange: boolean }) {
  const queries = useQueryClient()
  const path = { params: { path: { id: tag.id } } }
  const refresh = () =>
    Promise.all([['tags'], ['links']].map((queryKey) => queries.invalidateQueries({ queryKey })))
  const change = useMutation({
    mutationFn: (body: { name?: string; color?: number }) =>
      read(api.PATCH('/api/v1/tags/{id}', { ...path, body })),
    onSuccess: refresh,
  })
  return (
    <tr>
      <td>
        <Link to="/links" search={{ tag: tag.name }} style={{ color: 'inherit' }}>
          <TagPills names={[tag.name]} />
        </Link>
      </td>
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
        {mayChange && (
          <NameActions
            name={tag.name}
            loses="Its links lose the tag."
            onRename={(name) => change.mutateAsync({ name })}
            onDelete={() => read(api.DELETE('/api/v1/tags/{id}', path)).then(refresh)}
          />
        )}
      </td>
    </tr>
  )
}
