import { Button } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link, useNavigate, useSearch } from '@tanstack/react-router'
import { vocabulary } from '../../api/vocabulary'
import { Page } from '../../parts/Page'
import { Empty, Failed, Loading } from '../../parts/States'
import { mayEdit, useSession } from '../access/session'
import { BatchProgress } from './BatchProgress'
import { BatchResult } from './BatchResult'
import { batchQuery } from './batches'
import { ListEntry } from './ListEntry'
import { ListReading } from './ListReading'

const title = 'Create links in bulk'

/** Many links from one list: hand it over, see what it would make, make it, take the result along. */
export function BatchPage() {
  const { batch: id } = useSearch({ from: '/members/send/many' })
  const session = useSession()
  const navigate = useNavigate()
  const domains = useQuery(vocabulary.domains)
  const batch = useQuery({ ...batchQuery(id ?? ''), enabled: id !== undefined })
  const open = (batch?: string) => void navigate({ to: '/send/many', search: { batch } })

  if (session && !mayEdit(session))
    return (
      <Page title={title}>
        <Empty title="Viewers can’t create links" action={<ToLinks />}>
          You can see links and reports. An owner of {session.workspace} can make you an editor.
        </Empty>
      </Page>
    )
  const failed = [domains, batch].find((q) => q.isError)
  if (failed)
    return (
      <Page title={title} beside={id && <Another onClick={() => open()} />}>
        <Failed error={failed.error} onRetry={() => void failed.refetch()} />
      </Page>
    )
  if (!domains.data || (id && !batch.data))
    return (
      <Page title={title}>
        <Loading />
      </Page>
    )
  if (domains.data.length === 0)
    return (
      <Page title={title}>
        <Empty
          title="Add a short domain first"
          action={
            <Button
              renderRoot={(props) => (
                <Link to="/settings/$section" params={{ section: 'domains' }} {...props} />
              )}
            >
              Go to Settings
            </Button>
          }
        >
          Short links use your own domain. Add one in Settings, then create links from a list.
        </Empty>
      </Page>
    )
  if (!id || !batch.data)
    return (
      <Page title={title}>
        <ListEntry onOpen={open} />
      </Page>
    )
  return (
    <Page title={title} beside={batch.data.state !== 'running' && <Another onClick={() => open()} />}>
      {batch.data.state === 'waiting' && (
        <ListReading key={id} batch={batch.data} domains={domains.data} onDiscarded={() => open()} />
      )}
      {batch.data.state === 'running' && <BatchProgress batch={batch.data} />}
      {batch.data.state === 'done' && <BatchResult batch={batch.data} onUndone={() => open()} />}
    </Page>
  )
}

function Another({ onClick }: { onClick: () => void }) {
  return (
    <Button variant="default" onClick={onClick}>
      Another list
    </Button>
  )
}

function ToLinks() {
  return (
    <Button component={Link} to="/links">
      View links
    </Button>
  )
}
