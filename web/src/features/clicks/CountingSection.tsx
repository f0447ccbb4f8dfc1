import { useSession } from '../access/session'
import { KeptClicks } from './KeptClicks'
import { LeftOutByBehaviour } from './LeftOutByBehaviour'
import { OfficeNetworks } from './OfficeNetworks'

/** Which visits count as clicks, and how long clicks are kept. */
export function CountingSection() {
  const mayChange = useSession()?.role === 'owner'
  return (
    <>
      <OfficeNetworks mayChange={mayChange} />
      <LeftOutByBehaviour mayChange={mayChange} />
      <KeptClicks mayChange={mayChange} />
    </>
  )
}
