import { Alert, Button, Group, Text, TextInput } from '@mantine/core'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read } from '../../../api/client'
import { counted } from '../../../parts/format/numbers'
import { Failed } from '../../../parts/States'
import { linksChanged, seen, type Link } from '../links'

interface Props {
  link: Link
  onKeep: () => void
  onGone: () => void
}

/** Deletes a link, after saying what still goes over it and asking for its slug. */
export function DeleteLink({ link, onKeep, onGone }: Props) {
  const queries = useQueryClient()
  const [typed, setTyped] = useState('')
  const recent = link.course?.reduce((sum, clicks) => sum + clicks, 0)
  const remove = useMutation({
    mutationFn: () =>
      read(api.DELETE('/api/v1/links/{id}', { params: { path: { id: link.id } }, headers: seen(link) })),
    onSuccess: async () => {
      onGone()
      queries.removeQueries({ queryKey: ['links', 'one', link.id] })
      await linksChanged(queries)
    },
  })
  const isSure = typed.trim().toLowerCase() === link.slug.toLowerCase()
  return (
    <Alert mt="md" role="alertdialog" variant="default" title={`Delete ${link.slug}?`}>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          if (isSure) remove.mutate()
        }}
      >
        <Text size="sm">
          {recent === undefined
            ? 'Everybody'
            : `People clicked it ${counted(recent, 'time')} in the last 30 days. Everybody`}{' '}
          who follows it from now on sees that it has ended
          {link.aliases.length > 0 && ', under its earlier addresses too'}. You can restore it for 180 days;
          its slug is reserved until then.
        </Text>
        <TextInput
          mt="sm"
          label={`To confirm, type the slug: ${link.slug}`}
          autoFocus
          autoComplete="off"
          value={typed}
          onChange={(event) => setTyped(event.currentTarget.value)}
        />
        <Group gap={8} mt="sm" mb={4}>
          <Button type="submit" color="red" disabled={!isSure} loading={remove.isPending}>
            Delete link
          </Button>
          <Button variant="default" onClick={onKeep}>
            Cancel
          </Button>
        </Group>
      </form>
      {remove.isError && <Failed error={remove.error} />}
    </Alert>
  )
}
