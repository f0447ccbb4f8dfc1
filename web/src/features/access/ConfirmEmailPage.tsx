import { Anchor, Button, Text } from '@mantine/core'
import { useMutation } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { api, read } from '../../api/client'
import { Failed } from '../../parts/States'
import { AccessPage } from './AccessPage'
import { linkSecret } from './linkSecret'

/** Where the two links about another e-mail address lead. Nothing is confirmed by opening it: mail scanners open links too. */
export function ConfirmEmailPage() {
  const confirm = useMutation({
    mutationFn: () => read(api.POST('/api/v1/account/email/confirm', { body: { secret: linkSecret() } })),
  })
  return (
    <AccessPage title="Confirm your new e-mail address">
      {confirm.data ? (
        <Text role="status">
          {confirm.data.isChanged
            ? `Confirmed. From now on you sign in with ${confirm.data.newEmail}.`
            : `Confirmed here. Now open the link in the e-mail to the other address; then you sign in with ${confirm.data.newEmail}.`}
        </Text>
      ) : (
        <>
          <Text>The address is changed once you have confirmed it at both, the old one and the new one.</Text>
          {confirm.isError && <Failed error={confirm.error} />}
          <Button size="md" loading={confirm.isPending} onClick={() => confirm.mutate()}>
            Confirm
          </Button>
        </>
      )}
      <Anchor component={Link} to="/account">
        Go to your account
      </Anchor>
    </AccessPage>
  )
}
