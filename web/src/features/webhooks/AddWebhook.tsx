import { Alert, Button, Checkbox, Code, Group, Stack, TextInput, Title } from '@mantine/core'
import { useForm } from '@mantine/form'
import { api, fieldErrors, read } from '../../api/client'
import { copy } from '../../parts/files/copy'
import { FormError } from '../../parts/FormError'
import { events, useChange, type Event } from './webhooks'

/** A new webhook; its secret is shown once. */
export function AddWebhook() {
  const form = useForm({ initialValues: { address: '', events: ['link-created'] as Event[] } })
  const add = useChange((body: typeof form.values) => read(api.POST('/api/v1/webhooks', { body })))
  const submit = form.onSubmit((values) =>
    add.mutate(values, {
      onSuccess: () => form.reset(),
      onError: (error) => form.setErrors(fieldErrors(error)),
    }),
  )
  return (
    <>
      {add.data && (
        <Alert
          variant="default"
          role="status"
          title={`Secret of ${add.data.address} (shown only once)`}
          mb="md"
        >
          <Code block>{add.data.secret}</Code>
          <Button mt="sm" variant="default" onClick={() => void copy('Secret', add.data.secret)}>
            Copy secret
          </Button>
        </Alert>
      )}
      <Title order={2} size={18} mt="lg" mb="sm">
        Add a webhook
      </Title>
      <form onSubmit={submit} aria-label="Add a webhook">
        <Stack gap="sm" maw={560}>
          <TextInput
            label="Address"
            type="url"
            placeholder="https://www.northmoor.example/cursus"
            required
            {...form.getInputProps('address')}
          />
          <Checkbox.Group label="Tell it when" {...form.getInputProps('events')}>
            <Stack gap={8} mt={6}>
              {events.map(({ value, label }) => (
                <Checkbox key={value} value={value} label={label} />
              ))}
            </Stack>
          </Checkbox.Group>
          <FormError error={add.error} form={form} />
          <Group>
            <Button type="submit" loading={add.isPending}>
              Add webhook
            </Button>
          </Group>
        </Stack>
      </form>
    </>
  )
}
