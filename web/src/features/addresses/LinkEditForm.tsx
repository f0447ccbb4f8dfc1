import { Button, Group, NumberInput, Select, Stack, Textarea, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, fieldErrors, read } from '../../api/client'
import { FolderField } from '../../parts/FolderField'
import { redirects } from '../../parts/redirects'
import { Failed } from '../../parts/States'
import { TagsField } from '../../parts/TagPill'
import { PixelsField } from '../retargeting/PixelsField'
import type { Link } from './links'

/** Changes what may change about a link. The short address stays; a new destination takes effect at the next visit. */
export function LinkEditForm({ link, onDone }: { link: Link; onDone: () => void }) {
  const queries = useQueryClient()
  const form = useForm({
    initialValues: {
      title: link.title,
      destination: link.destination,
      redirect: String(link.redirect),
      tags: link.tags,
      pixels: link.pixels,
      handoffDeadline: link.options.handoffDeadline ?? '',
      folder: link.folder,
      note: link.note ?? '',
    },
  })
  const save = useMutation({
    mutationFn: ({ handoffDeadline, ...values }: typeof form.values) =>
      read(
        api.PATCH('/api/v1/links/{id}', {
          params: { path: { id: link.id } },
          body: {
            ...values,
            folder: values.folder ?? '',
            redirect: Number(values.redirect),
            options: handoffDeadline === '' ? undefined : { handoffDeadline: Number(handoffDeadline) },
          },
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
        <TagsField label="Tags" {...form.getInputProps('tags')} />
        <PixelsField
          description="Its own; those of post, campaign, channel and domain fire too"
          {...form.getInputProps('pixels')}
        />
        <NumberInput
          label="Wait for ad networks, milliseconds"
          description="800 unless said otherwise; visitors go on as soon as all have answered"
          placeholder="800"
          min={0}
          max={5000}
          step={100}
          {...form.getInputProps('handoffDeadline')}
        />
        <FolderField {...form.getInputProps('folder')} />
        <Textarea label="Note for colleagues" autosize minRows={2} {...form.getInputProps('note')} />
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
