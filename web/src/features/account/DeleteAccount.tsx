import { Button, Group, PasswordInput, Stack } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { api, fieldErrors, read } from '../../api/client'
import { FormError } from '../../parts/FormError'

/** Deletes the account, for which the password is asked: nothing brings it back. */
export function DeleteAccount() {
  const [isOpen, setIsOpen] = useState(false)
  const form = useForm({ initialValues: { password: '' } })
  const remove = useMutation({
    mutationFn: (body: typeof form.values) => read(api.POST('/api/v1/account/delete', { body })),
    onSuccess: () => location.assign('/sign-in'),
    onError: (error) => form.setErrors(fieldErrors(error)),
  })
  if (!isOpen)
    return (
      <Button variant="default" onClick={() => setIsOpen(true)}>
        Delete account
      </Button>
    )
  return (
    <form aria-label="Delete account" onSubmit={form.onSubmit((values) => remove.mutate(values))}>
      <Stack gap="sm" maw={420}>
        <PasswordInput
          label="Your password"
          autoComplete="current-password"
          autoFocus
          required
          {...form.getInputProps('password')}
        />
        <FormError error={remove.error} form={form} />
        <Group gap={8}>
          <Button type="submit" color="red" loading={remove.isPending}>
            Delete account for good
          </Button>
          <Button variant="default" onClick={() => setIsOpen(false)}>
            Cancel
          </Button>
        </Group>
      </Stack>
    </form>
  )
}
