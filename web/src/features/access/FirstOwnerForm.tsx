import { Alert, Button, Select, Stack, Text, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation } from '@tanstack/react-query'
import { api, fieldErrors, read } from '../../api/client'
import { ownZone, timeZones } from '../../parts/format/timeZones'
import { proposedDomain } from '../addresses/proposedDomain'
import { NewPasswordField } from './NewPasswordField'
import { useSignIn } from './useSignIn'

/** The first page of an empty installation. */
export function FirstOwnerForm() {
  const signIn = useSignIn()
  const form = useForm({
    initialValues: {
      name: '',
      email: '',
      password: '',
      workspace: '',
      timeZone: ownZone,
      domain: '',
      setupCode: new URLSearchParams(location.hash.slice(1)).get('setup') ?? '',
    },
  })
  const cameWithCode = form.getInitialValues().setupCode !== '' && !form.errors.setupCode
  const make = useMutation({
    mutationFn: (body: typeof form.values) => read(api.POST('/api/v1/installation', { body })),
    onSuccess: (_, { email, password }) => signIn.mutate({ email, password }),
    onError: (error) => {
      form.setErrors(fieldErrors(error))
    },
  })
  return (
    <Stack>
      <Text c="dimmed">There are no accounts here yet. The first owner sets up the workspace.</Text>
      {make.isError && (
        <Alert role="alert" variant="default" title="Can’t create it yet">
          {make.error.message}
        </Alert>
      )}
      <form onSubmit={form.onSubmit((values) => make.mutate(values))}>
        <Stack gap="sm">
          <TextInput label="Your name" autoComplete="name" required {...form.getInputProps('name')} />
          <TextInput
            label="E-mail"
            type="email"
            autoComplete="username"
            required
            {...form.getInputProps('email')}
          />
          <NewPasswordField {...form.getInputProps('password')} />
          <TextInput
            label="Organisation"
            required
            {...form.getInputProps('workspace')}
            onChange={(event) => {
              const workspace = event.currentTarget.value
              const wasProposed =
                form.values.domain === proposedDomain(form.values.workspace, location.hostname)
              form.setValues(
                wasProposed
                  ? { workspace, domain: proposedDomain(workspace, location.hostname) }
                  : { workspace },
              )
            }}
          />
          <Select
            label="Time zone"
            description="Days and weeks in reports follow it"
            searchable
            data={timeZones}
            {...form.getInputProps('timeZone')}
          />
          <TextInput
            label="Short domain"
            description="You can add one later. Names under .localhost work on this machine straight away."
            placeholder="go.example.org"
            {...form.getInputProps('domain')}
          />
          {!cameWithCode && (
            <TextInput
              label="Set-up code"
              description="Shown in the terminal where Cursus was started, next to its address"
              required
              autoComplete="off"
              {...form.getInputProps('setupCode')}
            />
          )}
          <Button type="submit" size="md" loading={make.isPending || signIn.isPending}>
            Create owner and workspace
          </Button>
        </Stack>
      </form>
    </Stack>
  )
}
