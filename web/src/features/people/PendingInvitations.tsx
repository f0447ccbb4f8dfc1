import { Button, Group, Text, Title } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { api, read, wordsOf } from '../../api/client'
import { dayOf } from '../../parts/format/numbers'
import { Sheet } from '../../parts/Sheet'
import { Failed } from '../../parts/States'
import { MadeLinks } from './MadeLinks'
import { invitationsQuery, useChange, type Invitation } from './people'
import { roleName } from '../access/roles'

/** People who have been asked and haven’t answered; nothing where there are none. */
export function PendingInvitations() {
  const invitations = useQuery(invitationsQuery)
  const resend = useChange((id: string) =>
    read(api.POST('/api/v1/invitations/{id}/resend', { params: { path: { id } } })),
  )
  const withdraw = useChange((id: string) =>
    read(api.DELETE('/api/v1/invitations/{id}', { params: { path: { id } } })),
  )
  if (invitations.isError)
    return <Failed error={invitations.error} onRetry={() => void invitations.refetch()} />
  if (!invitations.data?.length) return null
  const error = resend.error ?? withdraw.error
  return (
    <>
      <Title order={2} size={18} mt="xl" mb={4}>
        Pending invitations
      </Title>
      <Sheet
        about="Sending an invitation again makes a new link, and the earlier one stops working."
        columns={['Invited', 'Link', '']}
      >
        {invitations.data.map((invitation) => (
          <tr key={invitation.id}>
            <td>
              <span style={{ overflowWrap: 'anywhere' }}>{invitation.email}</span>
              <Text size="sm" c="dimmed">
                {roleName(invitation.role)}, by {invitation.invitedBy ?? 'a former member'}
              </Text>
            </td>
            <td>
              <LinkState invitation={invitation} />
            </td>
            <td>
              <Group gap={0} justify="flex-end">
                <Button
                  size="compact-sm"
                  variant="subtle"
                  aria-label={`Send the invitation of ${invitation.email} again`}
                  loading={resend.isPending && resend.variables === invitation.id}
                  onClick={() => resend.mutate(invitation.id)}
                >
                  Send again
                </Button>
                <Button
                  size="compact-sm"
                  variant="subtle"
                  aria-label={`Withdraw the invitation of ${invitation.email}`}
                  loading={withdraw.isPending && withdraw.variables === invitation.id}
                  onClick={() => withdraw.mutate(invitation.id)}
                >
                  Withdraw
                </Button>
              </Group>
            </td>
          </tr>
        ))}
      </Sheet>
      {error && <div role="alert">{wordsOf(error)}</div>}
      {resend.data && <MadeLinks made={resend.data} />}
    </>
  )
}

function LinkState({ invitation }: { invitation: Invitation }) {
  if (invitation.isExpired) return <Text size="sm">Expired</Text>
  return (
    <>
      <Text size="sm">Works until {dayOf(invitation.expiresAt)}</Text>
      {invitation.mailFailure && !invitation.mailedAt && (
        <Text size="sm" c="var(--bad)">
          Not sent yet: {invitation.mailFailure}
        </Text>
      )}
    </>
  )
}
