import { Alert, Anchor, Button, Stack, Text, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { api, fieldErrors, read, wordsOf } from '../../api/client'
import { AccessPage } from './AccessPage'

/** Asks for a link to set a new password. It says the same whether or not there is such an account. */
export function ForgottenPasswordPage() {
  const form = useForm({ initialValues: { email: '' } })
  const ask = useMutation({
    mutationFn: (body: typeof form.values) => read(api.POST('/api/v1/account/reset', { body })),
    onError: (error) => form.setErrors(fieldErrors(error)),
  })
  return (
    <AccessPage title="Forgotten password">
      {ask.isSuccess ? (
        <Text role="status">
          If there is an account with the address {ask.variables.email.trim()}, an e-mail is on its way. Its
          link works for an hour.
        </Text>
      ) : (
        <form onSubmit={form.onSubmit((values) => ask.mutate(values))}>
          <Stack>
            <Text c="dimmed">
              Enter your e-mail address, and we’ll send you a link to set a new password.
            </Text>
            {ask.isError && !form.errors.email && (
              <Alert role="alert" variant="default" title="Not sent">
                {wordsOf(ask.error)}
              </Alert>
            )}
            <TextInput
              label="E-mail"
              type="email"
              autoComplete="username"
              required
              {...form.getInputProps('email')}
            />
            <Button type="submit" size="md" loading={ask.isPending}>
              Send link
            </Button>
          </Stack>
        </form>
      )}
      <Anchor component={Link} to="/sign-in">
        Back to sign-in
      </Anchor>
    </AccessPage>
  )
}
