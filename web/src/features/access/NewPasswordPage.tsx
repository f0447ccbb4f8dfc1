import { Alert, Anchor, Button, Stack, Text } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { api, fieldErrors, read, wordsOf } from '../../api/client'
import { AccessPage } from './AccessPage'
import { linkSecret } from './linkSecret'
import { NewPasswordField } from './NewPasswordField'

/** Where the link from the e-mail about a forgotten password leads. */
export function NewPasswordPage() {
  const form = useForm({ initialValues: { password: '' } })
  const save = useMutation({
    mutationFn: ({ password }: typeof form.values) =>
      read(api.POST('/api/v1/account/reset/confirm', { body: { secret: linkSecret(), password } })),
    onError: (error) => form.setErrors(fieldErrors(error)),
  })
  return (
    <AccessPage title="Set a new password">
      {save.isSuccess ? (
        <>
          <Text role="status">Your new password is set, and you are signed out in all browsers.</Text>
          <Button component={Link} to="/sign-in" size="md">
            Sign in
          </Button>
        </>
      ) : (
        <form onSubmit={form.onSubmit((values) => save.mutate(values))}>
          <Stack>
            {save.isError && !form.errors.password && (
              <Alert role="alert" variant="default" title="Not saved">
                {wordsOf(save.error)}{' '}
                <Anchor component={Link} to="/forgotten-password">
                  Ask for a new link
                </Anchor>
              </Alert>
            )}
            <NewPasswordField label="New password" {...form.getInputProps('password')} />
            <Button type="submit" size="md" loading={save.isPending}>
              Save password
            </Button>
          </Stack>
        </form>
      )}
    </AccessPage>
  )
}
