import { Alert, Button, Group, NumberInput, Text, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useDebouncedValue } from '@mantine/hooks'
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, fieldErrors, read, wordsOf } from '../../../api/client'
import type { Channel } from '../../../api/vocabulary'
import { pixelsQuery } from '../../retargeting/pixels'
import { PixelsField } from '../../retargeting/PixelsField'
import { ColorField } from './ColorField'

interface Props {
  /** The channel to change; a new one is added without it. */
  channel?: Channel
  onDone: () => void
}

/** All that a channel is: its name and look, the source and medium of its links, and how texts are counted there. */
export function ChannelForm({ channel, onDone }: Props) {
  const queries = useQueryClient()
  const form = useForm({
    initialValues: {
      name: channel?.name ?? '',
      signet: channel?.signet ?? '',
      color: channel?.color,
      ownColor: channel?.ownColor ?? '',
      source: channel?.source ?? '',
      medium: channel?.medium ?? '',
      textLimit: channel?.textLimit ?? '',
      addressLength: channel?.addressLength ?? '',
    },
  })
  const pixels = useQuery(pixelsQuery)
  const attached = (pixels.data ?? []).filter((p) => channel && p.channels.includes(channel.key))
  const [chosen, setChosen] = useState<string[]>()
  const [name] = useDebouncedValue(form.values.name.trim(), 250)
  const proposal = useQuery({
    queryKey: ['channels', 'proposal', name],
    queryFn: () => read(api.GET('/api/v1/channels/proposal', { params: { query: { name } } })),
    enabled: !channel && name !== '',
    placeholderData: keepPreviousData,
  })
  const save = useMutation({
    mutationFn: ({ signet, source, medium, textLimit, addressLength, ...values }: typeof form.values) => {
      const body = {
        ...values,
        // What is left empty is proposed by the server.
        signet: signet.trim() || undefined,
        source: source.trim() || undefined,
        medium: medium.trim() || undefined,
        textLimit: Number(textLimit),
        addressLength: Number(addressLength),
        pixels: chosen,
      }
      return channel
        ? read(api.PATCH('/api/v1/channels/{id}', { params: { path: { id: channel.id } }, body }))
        : read(api.POST('/api/v1/channels', { body }))
    },
    onSuccess: async () => {
      await Promise.all([['channels'], ['pixels']].map((queryKey) => queries.invalidateQueries({ queryKey })))
      form.reset()
      onDone()
    },
    onError: (error) => form.setErrors(fieldErrors(error)),
  })
  const isOdd = save.error && Object.keys(fieldErrors(save.error)).length === 0
  return (
    <form
      aria-label={channel ? `Edit ${channel.name}` : 'New channel'}
      onSubmit={form.onSubmit((values) => save.mutate(values))}
      onKeyDown={(event) => event.key === 'Escape' && onDone()}
    >
      <Group align="start" gap="sm">
        <TextInput
          label="Name"
          description="A network’s name or address works too"
          required
          autoFocus
          data-autofocus
          {...form.getInputProps('name')}
        />
        <TextInput
          label="Letters"
          description="One or two"
          w={90}
          maxLength={2}
          placeholder={form.values.name.trim().slice(0, 2)}
          {...form.getInputProps('signet')}
        />
        <TextInput
          label="Source"
          description="utm_source of its links"
          placeholder={proposal.data?.source}
          {...form.getInputProps('source')}
        />
        <TextInput
          label="Medium"
          description="utm_medium of its links"
          placeholder={proposal.data?.medium}
          {...form.getInputProps('medium')}
        />
        <NumberInput
          label="Text limit"
          description="Characters in a post"
          placeholder="none"
          w={150}
          min={1}
          max={100000}
          {...form.getInputProps('textLimit')}
        />
        <NumberInput
          label="An address counts as"
          description="Characters of that limit"
          placeholder="its length"
          w={170}
          min={1}
          max={100000}
          {...form.getInputProps('addressLength')}
        />
      </Group>
      <ColorField
        signet={form.values.signet.trim() || form.values.name.trim().slice(0, 2)}
        value={form.values.color}
        own={form.values.ownColor}
        error={form.errors.ownColor}
        onChange={(color, ownColor) => form.setValues({ color, ownColor })}
      />
      {pixels.data && pixels.data.length > 0 && (
        <PixelsField
          mt="sm"
          maw={480}
          label="Default pixels"
          description="Fire for all its links, including existing ones"
          value={chosen ?? attached.map((p) => p.id)}
          onChange={setChosen}
          error={form.errors.pixels}
        />
      )}
      {channel && (
        <Text size="sm" c="dimmed" mt="sm">
          New links use the new source and medium. Existing links keep theirs, so past clicks stay comparable.
        </Text>
      )}
      {isOdd && (
        <Alert role="alert" variant="default" mt="sm" title="Not saved">
          {wordsOf(save.error)}
        </Alert>
      )}
      <Group gap={8} mt="sm">
        <Button type="submit" loading={save.isPending}>
          {channel ? 'Save channel' : 'Add channel'}
        </Button>
        <Button variant="default" onClick={onDone}>
          Cancel
        </Button>
      </Group>
    </form>
  )
}
