import { Button, Group, Select, Text } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read, wordsOf } from '../../api/client'
import { dayOf } from '../../parts/format/numbers'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { membersQuery, useSession } from '../access/session'
import { InviteForm } from './InviteForm'
import { useChange, type Member } from './people'
import { PendingInvitations } from './PendingInvitations'
import { roleName, roles, type Role } from '../access/roles'

/** Who works here, in which role, and who has been asked to. */
export function MembersSection() {
  const members = useQuery(membersQuery)
  const isOwner = useSession()?.role === 'owner'
  if (members.isError) return <Failed error={members.error} onRetry={() => void members.refetch()} />
  if (!members.data) return <Loading rows={3} />
  return (
    <>
      <Sheet
        about="Viewers can read, editors can create and change posts and links, and owners can change settings and members."
        columns={['Member', 'Role', '']}
      >
        {members.data.map((member) => (
          <MemberRow key={member.id} member={member} isOwner={isOwner} />
        ))}
      </Sheet>
      {isOwner && (
        <>
          <InviteForm />
          <PendingInvitations />
        </>
      )}
    </>
  )
}

/** Chosen in place of a role: the member becomes an owner, and whoever chooses it an editor. */
const inMyPlace = 'in-my-place'

function MemberRow({ member, isOwner }: { member: Member; isOwner: boolean }) {
  const change = useChange((role: Role) =>
    read(api.PATCH('/api/v1/members/{id}', { params: { path: { id: member.id } }, body: { role } })),
  )
  const handOver = useChange(() =>
    read(api.POST('/api/v1/members/{id}/hand-over', { params: { path: { id: member.id } } })),
  )
  const failure = change.error ?? handOver.error
  return (
    <tr>
      <td>
        {member.name}
        {member.isMe && (
          <Text span c="dimmed">
            {' '}
            (you)
          </Text>
        )}
        <Text size="sm" c="dimmed" style={{ overflowWrap: 'anywhere' }}>
          {member.email} · since {dayOf(member.joinedAt)}
          {member.hasTwoSteps && ' · signs in in two steps'}
        </Text>
      </td>
      <td>
        {isOwner ? (
          <Select
            aria-label={`Role of ${member.name}`}
            size="sm"
            w={110}
            allowDeselect={false}
            data={[
              ...roles.map(({ value, label }) => ({ value, label })),
              ...(member.isMe || member.role === 'owner'
                ? []
                : [{ value: inMyPlace, label: 'Owner in my place' }]),
            ]}
            value={member.role}
            onChange={(role) => {
              if (role === inMyPlace) handOver.mutate()
              else if (role && role !== member.role) change.mutate(role as Role)
            }}
            comboboxProps={{ width: 'max-content', position: 'bottom-start' }}
            error={failure && wordsOf(failure)}
          />
        ) : (
          roleName(member.role)
        )}
      </td>
      <td style={{ textAlign: 'right' }}>{(isOwner || member.isMe) && <EndMembership member={member} />}</td>
    </tr>
  )
}

/** Removes a member, or lets people leave by themselves; asked once more, since their tokens are gone with them. */
function EndMembership({ member }: { member: Member }) {
  const [isSure, setIsSure] = useState(false)
  const end = useChange(() =>
    read(
      member.isMe
        ? api.POST('/api/v1/members/leave')
        : api.DELETE('/api/v1/members/{id}', { params: { path: { id: member.id } } }),
    ),
  )
  const leave = async () => {
    await end.mutateAsync()
    // To another workspace of one’s own, or to signing in where there is none.
    if (member.isMe) location.assign('/')
  }
  const word = member.isMe ? 'Leave' : 'Remove'
  return (
    <Group gap={8} justify="flex-end" wrap={isSure ? 'wrap' : 'nowrap'}>
      {isSure ? (
        <>
          <Text span size="sm">
            {member.isMe ? 'Your' : 'Their'} links stay; API tokens stop working.
          </Text>
          <Button
            size="compact-sm"
            color="red"
            loading={end.isPending}
            onClick={() => void leave().catch(() => {})}
          >
            {word}
          </Button>
          <Button size="compact-sm" variant="default" onClick={() => setIsSure(false)}>
            Cancel
          </Button>
        </>
      ) : (
        <Button
          size="compact-sm"
          variant="subtle"
          aria-label={member.isMe ? 'Leave this workspace' : `Remove ${member.name}`}
          onClick={() => setIsSure(true)}
        >
          {word}
        </Button>
      )}
      {end.error && <div role="alert">{wordsOf(end.error)}</div>}
    </Group>
  )
}
