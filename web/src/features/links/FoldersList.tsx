import { Button, Text, TextInput, Title } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { api, read } from '../../api/client'
import { vocabulary } from '../../api/vocabulary'
import { AddForm } from '../../parts/AddForm'
import { NameActions } from '../../parts/NameActions'
import { count } from '../../parts/format/numbers'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { mayEdit, useSession } from '../access/session'
import { asList } from './filter/linksSearch'

/** The folders links are filed in. */
export function FoldersList() {
  const folders = useQuery(vocabulary.folders)
  const isEditor = mayEdit(useSession())
  const queries = useQueryClient()
  const refresh = () =>
    Promise.all([['folders'], ['links']].map((queryKey) => queries.invalidateQueries({ queryKey })))
  const form = useForm({ initialValues: { name: '' } })
  const add = useMutation({
    mutationFn: (body: typeof form.values) => read(api.POST('/api/v1/folders', { body })),
    onSuccess: async () => {
      form.reset()
      await refresh()
    },
  })
  if (folders.isError) return <Failed error={folders.error} onRetry={() => void folders.refetch()} />
  if (!folders.data) return <Loading rows={2} />
  return (
    <>
      <Title order={2} size={18} mt="xl" mb={4}>
        Folders
      </Title>
      {folders.data.length === 0 ? (
        <Text c="dimmed">No folders yet. A link can be in one folder, for example a client’s.</Text>
      ) : (
        <Sheet about="A link can be in one folder, for example a client’s." columns={['Folder', 'Links', '']}>
          {folders.data.map((folder) => {
            const path = { params: { path: { id: folder.id } } }
            return (
              <tr key={folder.id}>
                <td>
                  <Link to="/links" search={{ folder: asList([folder.name]) }} style={{ color: 'inherit' }}>
                    {folder.name}
                  </Link>
                </td>
                <td>{count(folder.links)}</td>
                <td style={{ textAlign: 'right' }}>
                  {isEditor && (
                    <NameActions
                      name={folder.name}
                      loses={folder.links > 0 ? 'Its links are kept, without a folder.' : undefined}
                      onRename={(name) =>
                        read(api.PATCH('/api/v1/folders/{id}', { ...path, body: { name } })).then(refresh)
                      }
                      onDelete={() => read(api.DELETE('/api/v1/folders/{id}', path)).then(refresh)}
                    />
                  )}
                </td>
              </tr>
            )
          })}
        </Sheet>
      )}
      {isEditor && (
        <AddForm error={add.error} onSubmit={form.onSubmit((values) => add.mutate(values))}>
          <TextInput label="New folder" required {...form.getInputProps('name')} />
          <Button type="submit" loading={add.isPending}>
            Add folder
          </Button>
        </AddForm>
      )}
    </>
  )
}
