import { Alert, Anchor, Button, Group, PasswordInput, Stack, Text, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { api, Problem, read } from '../../api/client'
import { Failed, Loading } from '../../parts/States'
import classes from './Access.module.css'
import { AccessPage } from './AccessPage'
import { FirstOwnerForm } from './FirstOwnerForm'
import { CodeField } from './CodeField'
import { canUsePasskeys } from './passkeys'
import { asksSecondStep, usePasskeySignIn, useSignIn } from './useSignIn'

export function SignInPage() {
  const installation = useQuery({
    queryKey: ['installation'],
    queryFn: () => read(api.GET('/api/v1/installation')),
  })
  return (
    <AccessPage title={installation.data?.needsOwner ? 'Create the first owner' : 'Sign in'}>
      {installation.isPending && <Loading rows={3} />}
      {installation.isError && (
        <Failed error={installation.error} onRetry={() => void installation.refetch()} />
      )}
      {installation.data?.needsOwner && <FirstOwnerForm />}
      {installation.data && !installation.data.needsOwner && (
        <SignInForm demo={installation.data.demoSignIns} />
      )}
    </AccessPage>
  )
}

interface DemoSignIn {
  name: string
  role: string
  email: string
  password: string
}

function SignInForm({ demo }: { demo: DemoSignIn[] }) {
  const signIn = useSignIn()
  const passkey = usePasskeySignIn()
  const form = useForm({ initialValues: { email: '', password: '', code: '' } })
  const [asksCode, setAsksCode] = useState(false)
  if (asksSecondStep(signIn.error) && !asksCode) setAsksCode(true)
  const error = passkey.error ?? signIn.error
  return (
    <Stack>
      {error && (
        <Alert
          role="alert"
          variant="default"
          title={error instanceof Problem && error.code === 'second-step' ? 'One more step' : 'Not signed in'}
        >
          {error.message}
        </Alert>
      )}
      <form
        onSubmit={form.onSubmit((values) => {
          passkey.reset()
          signIn.mutate(values)
        })}
      >
        <Stack>
          <TextInput
            label="E-mail"
            type="email"
            autoComplete="username"
            required
            {...form.getInputProps('email')}
          />
          <PasswordInput
            label="Password"
            autoComplete="current-password"
            required
            {...form.getInputProps('password')}
          />
          {asksCode && <CodeField autoFocus {...form.getInputProps('code')} />}
          <Button type="submit" size="md" loading={signIn.isPending}>
            Sign in
          </Button>
          {canUsePasskeys() && (
            <Button size="md" variant="default" loading={passkey.isPending} onClick={() => passkey.mutate()}>
              Sign in with a passkey
            </Button>
          )}
          <Anchor component={Link} to="/forgotten-password" size="sm">
            Forgotten your password?
          </Anchor>
        </Stack>
      </form>
      {demo.length > 0 && (
        <Stack gap={8} className={classes.demo}>
          <Text size="sm" c="dimmed">
            This is the demo. Sign in as
          </Text>
          <Group gap={8}>
            {demo.map((who) => (
              <Button
                key={who.email}
                variant="default"
                size="compact-md"
                onClick={() => signIn.mutate({ email: who.email, password: who.password })}
              >
                {who.name}, {who.role}
              </Button>
            ))}
          </Group>
        </Stack>
      )}
    </Stack>
  )
}
