import { Alert, Button, Group, PasswordInput, Stack, Text, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, fieldErrors, read } from '../../api/client'
import { FormError } from '../../parts/FormError'
import type { Account } from './account'

/** The address one signs in with. Another one holds when it is confirmed at both. */
export function EmailForm({ account }: { account: Account }) {
  const [isOpen, setIsOpen] = useState(false)
  const queries = useQueryClient()
  const refresh = () => queries.invalidateQueries({ queryKey: ['account'] })
  const form = useForm({ initialValues: { email: '', password: '' } })
  const ask = useMutation({
    mutationFn: (body: typeof form.values) => read(api.PUT('/api/v1/account/email', { body })),
    onSuccess: async () => {
      setIsOpen(false)
      form.reset()
      await refresh()
    },
    onError: (error) => form.setErrors(fieldErrors(error)),
  })
  const cancel = useMutation({
    mutationFn: () => read(api.DELETE('/api/v1/account/email')),
    onSuccess: refresh,
  })
  return (
    <Stack gap="sm" maw={560} align="flex-start">
      <Text>{account.email}</Text>
      {account.newEmail && (
        <Alert variant="default" role="status" title={`Waiting for ${account.newEmail}`}>
          <Text size="sm" mb={8}>
            Open the links in the e-mails to both addresses within a day. Until then, {account.email} stays.
          </Text>
          <Button
            size="compact-md"
            variant="default"
            loading={cancel.isPending}
            onClick={() => cancel.mutate()}
          >
            Keep {account.email}
          </Button>
        </Alert>
      )}
      {!account.canMail && (
        <Text size="sm" c="dimmed">
          This installation sends no e-mails, so a new address can’t be confirmed.
        </Text>
      )}
      {account.canMail && !isOpen && (
        <Button variant="default" onClick={() => setIsOpen(true)}>
          Change e-mail address
        </Button>
      )}
      {isOpen && (
        <form
          aria-label="Change e-mail address"
          style={{ width: '100%', maxWidth: 420 }}
          onSubmit={form.onSubmit((values) => ask.mutate(values))}
        >
          <Stack gap="sm">
            <TextInput
              label="New e-mail address"
              type="email"
              autoComplete="email"
              autoFocus
              required
              {...form.getInputProps('email')}
            />
            <PasswordInput
              label="Your password"
              autoComplete="current-password"
              required
              {...form.getInputProps('password')}
            />
            <FormError error={ask.error} form={form} />
            <Group gap={8}>
              <Button type="submit" loading={ask.isPending}>
                Send the links
              </Button>
              <Button variant="default" onClick={() => setIsOpen(false)}>
                Cancel
              </Button>
            </Group>
          </Stack>
        </form>
      )}
    </Stack>
  )
}
