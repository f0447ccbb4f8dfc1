import { Alert, Button, PasswordInput, Select, Stack, Text, TextInput, Title } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation } from '@tanstack/react-query'
import { api, fieldErrors, read } from '../../api/client'
import { useSignIn } from './SignInPage'

/** Browsers leave UTC out of their list, though a machine may well be set to it. */
const zones = [...new Set([...Intl.supportedValuesOf('timeZone'), 'UTC'])]

/** The first page of an empty installation. */
export function FirstOwnerForm() {
  const signIn = useSignIn()
  const form = useForm({
    initialValues: {
      name: '',
      email: '',
      password: '',
      workspace: '',
      timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
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
      <Title order={1} size={24}>
        Make the first owner
      </Title>
      <Text c="dimmed">
        Nobody has an account here yet. The owner sets the workspace up and invites the others.
      </Text>
      {make.isError && (
        <Alert role="alert" variant="default" title="Not made yet">
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
          <PasswordInput
            label="Password"
            description="At least ten characters"
            autoComplete="new-password"
            required
            {...form.getInputProps('password')}
          />
          <TextInput label="Organisation" required {...form.getInputProps('workspace')} />
          <Select
            label="Time zone"
            description="Days and weeks are cut in it"
            searchable
            data={zones}
            {...form.getInputProps('timeZone')}
          />
          <TextInput
            label="Short domain"
            description="Can be added later. Names under .localhost work on this machine at once."
            placeholder="go.example.org"
            {...form.getInputProps('domain')}
          />
          {!cameWithCode && (
            <TextInput
              label="Set-up code"
              description="Shown where Cursus was started, next to its address"
              required
              autoComplete="off"
              {...form.getInputProps('setupCode')}
            />
          )}
          <Button type="submit" size="md" loading={make.isPending || signIn.isPending}>
            Make owner and workspace
          </Button>
        </Stack>
      </form>
    </Stack>
  )
}
