import { useQuery } from '@tanstack/react-query'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { KeptClicks } from '../clicks/KeptClicks'
import { LeftOutByBehaviour } from '../clicks/LeftOutByBehaviour'
import { OfficeNetworks } from '../clicks/OfficeNetworks'
import { membersQuery, useSession } from './session'

export function MembersSection() {
  const members = useQuery(membersQuery)
  const session = useSession()
  if (members.isError) return <Failed error={members.error} onRetry={() => void members.refetch()} />
  if (!members.data) return <Loading rows={3} />
  return (
    <>
      <Sheet
        about="Viewers read, editors make and change posts and links, owners set the workspace up."
        columns={['Name', 'E-mail', 'Role']}
      >
        {members.data.map((member) => (
          <tr key={member.id}>
            <td>{member.name}</td>
            <td>{member.email}</td>
            <td>{member.role}</td>
          </tr>
        ))}
      </Sheet>
      <OfficeNetworks mayChange={session?.role === 'owner'} />
      <LeftOutByBehaviour mayChange={session?.role === 'owner'} />
      <KeptClicks mayChange={session?.role === 'owner'} />
    </>
  )
}
