import { Button, Group, Select, Stack, TagsInput, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, fieldErrors, read } from '../../api/client'
import { vocabulary } from '../../api/vocabulary'
import { redirects } from '../../parts/redirects'
import { Failed } from '../../parts/States'
import type { Link } from './links'

/** Changes what may change about a link. The short address stays; a new destination takes effect at the next visit. */
export function LinkEditForm({ link, onDone }: { link: Link; onDone: () => void }) {
  const queries = useQueryClient()
  const tags = useQuery(vocabulary.tags)
  const form = useForm({
    initialValues: {
      title: link.title,
      destination: link.destination,
      redirect: String(link.redirect),
      tags: link.tags,
    },
  })
  const save = useMutation({
    mutationFn: (values: typeof form.values) =>
      read(
        api.PATCH('/api/v1/links/{id}', {
          params: { path: { id: link.id } },
          body: { ...values, redirect: Number(values.redirect) },
        }),
      ),
    onSuccess: async (changed) => {
      queries.setQueryData(['links', 'one', link.id], changed)
      await queries.invalidateQueries({ queryKey: ['links'] })
      onDone()
    },
    onError: (error) => {
      form.setErrors(fieldErrors(error))
    },
  })
  return (
    <form onSubmit={form.onSubmit((values) => save.mutate(values))}>
      <Stack gap="sm">
        <TextInput label="Title" {...form.getInputProps('title')} />
        <TextInput label="Destination" autoFocus {...form.getInputProps('destination')} />
        <Select label="Redirect" data={redirects} {...form.getInputProps('redirect')} />
        <TagsInput label="Tags" data={tags.data?.map((t) => t.name) ?? []} {...form.getInputProps('tags')} />
        {save.isError && Object.keys(form.errors).length === 0 && <Failed error={save.error} />}
        <Group gap={8}>
          <Button type="submit" loading={save.isPending}>
            Save
          </Button>
          <Button variant="default" onClick={onDone}>
            Leave as it was
          </Button>
        </Group>
      </Stack>
    </form>
  )
}
