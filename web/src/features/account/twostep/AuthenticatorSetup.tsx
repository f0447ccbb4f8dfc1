import { Button, Group, Stack, Text, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { api, fieldErrors, read, type Schema } from '../../../api/client'
import { FormError } from '../../../parts/FormError'
import { ProofForm } from '../../access/ProofForm'

type Setup = Schema['AuthenticatorAppSetup']

interface Props {
  /** Called with recovery codes where there are new ones. */
  onDone: (codes: string[] | null | undefined) => void
  onCancel: () => void
}

/** Sets up an authenticator app: password, then the secret to scan, then the app’s first code. */
export function AuthenticatorSetup({ onDone, onCancel }: Props) {
  const [setup, setSetup] = useState<Setup>()
  if (setup) return <FirstCode setup={setup} onDone={onDone} onCancel={onCancel} />
  return (
    <ProofForm
      title="Set up authenticator app"
      submit="Continue"
      run={({ password }) => read(api.POST('/api/v1/account/authenticator', { body: { password } }))}
      onDone={setSetup}
      onCancel={onCancel}
    />
  )
}

function FirstCode({ setup, onDone, onCancel }: Props & { setup: Setup }) {
  const form = useForm({ initialValues: { code: '' } })
  const confirm = useMutation({
    mutationFn: (body: typeof form.values) => read(api.PUT('/api/v1/account/authenticator', { body })),
    onSuccess: ({ recoveryCodes }) => onDone(recoveryCodes),
    onError: (error) => form.setErrors(fieldErrors(error)),
  })
  return (
    <form
      aria-label="Set up authenticator app"
      onSubmit={form.onSubmit((values) => confirm.mutate(values))}
      style={{ maxWidth: 420 }}
    >
      <Stack gap="sm">
        <Text>Scan this with an authenticator app on your phone.</Text>
        <img
          src={`data:image/svg+xml,${encodeURIComponent(setup.picture)}`}
          alt="QR code for your authenticator app"
          width={200}
          height={200}
        />
        <Text size="sm" c="dimmed">
          Or type this key into the app:{' '}
          <Text span ff="monospace">
            {setup.key}
          </Text>
        </Text>
        <TextInput
          label="Code from the app"
          inputMode="numeric"
          autoComplete="one-time-code"
          maxLength={10}
          w={180}
          autoFocus
          required
          {...form.getInputProps('code')}
        />
        <FormError error={confirm.error} form={form} />
        <Group gap={8}>
          <Button type="submit" loading={confirm.isPending}>
            Turn on
          </Button>
          <Button variant="default" onClick={onCancel}>
            Cancel
          </Button>
        </Group>
      </Stack>
    </form>
  )
}
