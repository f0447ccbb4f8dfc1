import { Alert, Anchor, Blockquote, Button, PasswordInput, Stack, Text, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { api, fieldErrors, read, wordsOf, type Schema } from '../../api/client'
import { Failed, Loading } from '../../parts/States'
import { AccessPage } from '../access/AccessPage'
import { linkSecret } from '../access/linkSecret'
import { CodeField } from '../access/CodeField'
import { asksSecondStep } from '../access/useSignIn'
import { NewPasswordField } from '../access/NewPasswordField'
import { enterWorkspace } from '../access/session'
import { withArticle } from '../access/roles'

type Invitation = Schema['AcceptInvitationResponse']

/** Where the link of an invitation leads: who invites to what, and the shortest way in. */
export function JoinPage() {
  const secret = linkSecret()
  const invitation = useQuery({
    queryKey: ['invitation', secret],
    queryFn: () => read(api.POST('/api/v1/invitations/look', { body: { secret } })),
    retry: false,
  })
  return (
    <AccessPage title={invitation.data ? `Join ${invitation.data.workspace}` : 'Join a workspace'}>
      {invitation.isPending && <Loading rows={3} />}
      {invitation.isError && (
        <>
          <Failed error={invitation.error} />
          <Anchor component={Link} to="/sign-in">
            Sign in
          </Anchor>
        </>
      )}
      {invitation.data && <JoinForm invitation={invitation.data} secret={secret} />}
    </AccessPage>
  )
}

function JoinForm({ invitation, secret }: { invitation: Invitation; secret: string }) {
  const form = useForm({ initialValues: { name: '', password: '', code: '' } })
  const accept = useMutation({
    mutationFn: (values: typeof form.values) =>
      read(api.POST('/api/v1/invitations/accept', { body: { secret, ...values } })),
    onSuccess: ({ workspaceKey }) => enterWorkspace(workspaceKey),
    onError: (error) => form.setErrors(fieldErrors(error)),
  })
  const { hasAccount, isSignedIn } = invitation
  return (
    <form onSubmit={form.onSubmit((values) => accept.mutate(values))}>
      <Stack gap="sm">
        <Text>
          {invitation.invitedBy ?? 'Somebody'} has invited {invitation.email} to join as{' '}
          {withArticle(invitation.role)}.
        </Text>
        {invitation.message && (
          <Blockquote p="sm" color="gray">
            {invitation.message}
          </Blockquote>
        )}
        {invitation.signedInAs && (
          <Alert variant="default" title="Another account is signed in">
            This browser is signed in as {invitation.signedInAs}. If you join, it will be signed in as{' '}
            {invitation.email} instead.
          </Alert>
        )}
        {accept.isError && Object.keys(form.errors).length === 0 && (
          <Alert role="alert" variant="default" title="Not joined">
            {wordsOf(accept.error)}
          </Alert>
        )}
        {!hasAccount && (
          <>
            <TextInput label="Your name" autoComplete="name" required {...form.getInputProps('name')} />
            {/* Password managers keep the address with the password. */}
            <input type="hidden" name="email" autoComplete="username" value={invitation.email} />
            <NewPasswordField {...form.getInputProps('password')} />
          </>
        )}
        {hasAccount && !isSignedIn && (
          <PasswordInput
            label="Your password"
            description="You already have an account with this address."
            autoComplete="current-password"
            required
            {...form.getInputProps('password')}
          />
        )}
        {asksSecondStep(accept.error) && <CodeField autoFocus {...form.getInputProps('code')} />}
        <Button type="submit" size="md" loading={accept.isPending || accept.isSuccess}>
          Join {invitation.workspace}
        </Button>
        {hasAccount && !isSignedIn && (
          <Anchor component={Link} to="/forgotten-password" size="sm">
            Forgotten your password?
          </Anchor>
        )}
      </Stack>
    </form>
  )
}
