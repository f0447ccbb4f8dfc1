import { Button, Group, PasswordInput, Stack, Text } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, fieldErrors, read } from '../../api/client'
import { FormError } from '../../parts/FormError'
import { NewPasswordField } from '../access/NewPasswordField'

/** Another password, for which the present one is asked. */
export function PasswordForm() {
  const queries = useQueryClient()
  const form = useForm({ initialValues: { current: '', new: '' } })
  const save = useMutation({
    mutationFn: (body: typeof form.values) => read(api.PUT('/api/v1/account/password', { body })),
    onSuccess: async () => {
      form.reset()
      await queries.invalidateQueries({ queryKey: ['sign-ins'] })
    },
    onError: (error) => form.setErrors(fieldErrors(error)),
  })
  return (
    <form onSubmit={form.onSubmit((values) => save.mutate(values))} aria-label="Change password">
      <Stack gap="sm" maw={420}>
        <PasswordInput
          label="Current password"
          autoComplete="current-password"
          required
          {...form.getInputProps('current')}
        />
        <NewPasswordField label="New password" {...form.getInputProps('new')} />
        <FormError error={save.error} form={form} />
        {save.isSuccess && (
          <Text role="status" size="sm">
            Your password is changed, and you are signed out in all other browsers.
          </Text>
        )}
        <Group>
          <Button type="submit" loading={save.isPending}>
            Change password
          </Button>
        </Group>
      </Stack>
    </form>
  )
}
