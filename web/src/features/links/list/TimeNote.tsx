import { Alert } from '@mantine/core'
import { boundText, endOf, openingOf } from '../../../parts/format/linkTime'
import { useWorkspaceZone } from '../../access/session'
import type { Link } from '../links'

/** The bound that keeps a link from leading to its destination, in words; nothing where it does. */
export function useBoundText({ state, opensAt, endsAt }: Pick<Link, 'state' | 'opensAt' | 'endsAt'>) {
  const zone = useWorkspaceZone()
  if (state === 'scheduled') return boundText(openingOf(opensAt, zone))
  if (state === 'ended') return boundText(endOf(endsAt, zone))
  return undefined
}

/** Says of a link outside of its time where visitors are led instead. */
export function TimeNote({ link }: { link: Link }) {
  const bound = useBoundText(link)
  if (!bound) return null
  const led = link.fallback
    ? 'Visitors go to its fallback'
    : 'Visitors go to the campaign’s or workspace’s fallback'
  return link.state === 'scheduled' ? (
    <Alert variant="default" mt="md" title={`Opens ${bound}`}>
      {led} until then{!link.fallback && ', or see a note to come back later'}. “Open without counting” works
      for you already.
    </Alert>
  ) : (
    <Alert variant="default" mt="md" title={`Ended ${bound}`}>
      {led}
      {!link.fallback && ', or see that it has ended'}. Change its dates to reactivate it.
    </Alert>
  )
}
