import { Anchor, Button, Group, Text, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { api, fieldErrors, read, wordsOf } from '../../api/client'
import { proposedDomain } from './proposedDomain'

/** Asks for the first short domain where a post is begun; on the machine that runs Cursus it proposes one that works straight away. */
export function FirstDomain({ workspace }: { workspace: string }) {
  const queries = useQueryClient()
  const form = useForm({ initialValues: { name: proposedDomain(workspace, location.hostname) } })
  const add = useMutation({
    mutationFn: (body: typeof form.values) => read(api.POST('/api/v1/domains', { body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['domains'] }),
  })
  return (
    <form onSubmit={form.onSubmit((values) => add.mutate(values))} style={{ marginBottom: 28 }}>
      <Text c="dimmed" mb="sm" maw={720}>
        Short links use your own domain, such as go.example.org. A name ending in .localhost works on this
        machine straight away and is good for trying things out.
      </Text>
      <Group align="start" gap="sm">
        <TextInput
          label="Short domain"
          placeholder="go.example.org"
          required
          autoFocus
          data-autofocus
          w={280}
          {...form.getInputProps('name')}
          error={add.error && (fieldErrors(add.error).name ?? wordsOf(add.error))}
        />
        <Button type="submit" mt={26} loading={add.isPending}>
          Add domain
        </Button>
      </Group>
      {add.data && !add.data.isVerified && (
        <Text size="sm" mt="sm" role="status">
          {add.data.shown} doesn’t point here yet.{' '}
          <Anchor component={Link} to="/settings/domains">
            See which records to set
          </Anchor>
          .
        </Text>
      )}
    </form>
  )
}
