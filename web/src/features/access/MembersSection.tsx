import { useQuery } from '@tanstack/react-query'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { membersQuery } from './session'

export function MembersSection() {
  const members = useQuery(membersQuery)
  if (members.isError) return <Failed error={members.error} onRetry={() => void members.refetch()} />
  if (!members.data) return <Loading rows={3} />
  return (
    <Sheet
      about="Viewers can read, editors can create and change posts and links, and owners can change settings."
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
  )
}
