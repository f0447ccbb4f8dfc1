import { Button } from '@mantine/core'
import { IconPlus } from '@tabler/icons-react'
import { useQueries, useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { vocabulary } from '../../api/vocabulary'
import { count, counted, percent } from '../../parts/format/numbers'
import { Page } from '../../parts/Page'
import { Sheet } from '../../parts/Sheet'
import { Empty, Failed, Loading } from '../../parts/States'
import { useSession } from '../access/session'
import { AddPixel } from './AddPixel'
import classes from './Audiences.module.css'
import { about, audienceQuery, pixelsQuery, visitsOf, type Audience, type Pixel } from './pixels'

/** All pixels, each with about how many visitors its network knows by it. */
export function AudiencesPage() {
  const pixels = useQuery(pixelsQuery)
  const campaigns = useQuery(vocabulary.campaigns)
  const channels = useQuery(vocabulary.channels)
  const isOwner = useSession()?.role === 'owner'
  const [isAdding, setIsAdding] = useState(false)
  const audiences = useQueries({ queries: (pixels.data ?? []).map((p) => audienceQuery(p.id)) })
  // Widths of columns go by what is in them, so that figures that came later would move the rows.
  const isWaiting = [campaigns, channels, ...audiences].some((q) => q.isPending)
  const add = isOwner && !isAdding && (
    <Button leftSection={<IconPlus size={16} aria-hidden />} onClick={() => setIsAdding(true)}>
      Set up a pixel
    </Button>
  )
  return (
    <Page title="Audiences" beside={pixels.data?.length ? add : undefined}>
      {isAdding && (
        <div style={{ marginBottom: 18 }}>
          <AddPixel onDone={() => setIsAdding(false)} />
        </div>
      )}
      {pixels.isError ? (
        <Failed error={pixels.error} onRetry={() => void pixels.refetch()} />
      ) : !pixels.data || isWaiting ? (
        <Loading rows={3} />
      ) : pixels.data.length === 0 ? (
        !isAdding && (
          <Empty title="No audiences yet" action={add}>
            {isOwner
              ? 'A retargeting pixel lets an ad network remember people who follow your links, even to pages you don’t own. Paste its ID or code.'
              : 'A retargeting pixel lets an ad network remember who followed your links. Only owners of the workspace can add pixels.'}
          </Empty>
        )
      ) : (
        <Sheet
          about="Ad networks use pixels to remember who followed your links, even to pages you don’t own. “Visitors” counts people for whom the pixel fired in the last 28 days."
          columns={['Pixel', 'Network', 'Visitors in 28 days', 'Fired', 'Fires for']}
        >
          {pixels.data.map((pixel, i) => (
            <Row key={pixel.id} pixel={pixel} audience={audiences[i]?.data} />
          ))}
        </Sheet>
      )}
    </Page>
  )
}

function Row({ pixel, audience }: { pixel: Pixel; audience: Audience | undefined }) {
  const window = audience?.windows.find((w) => w.days === audience.days)
  const visits = audience ? visitsOf(audience.outcomes) : 0
  return (
    <tr>
      <td>
        <Link
          to="/audiences/$pixelId"
          params={{ pixelId: pixel.id }}
          style={{ color: 'var(--mantine-color-anchor)', fontWeight: 600 }}
        >
          {pixel.name}
        </Link>
      </td>
      <td>{pixel.networkName}</td>
      <td>
        {window && (
          <>
            {about(window.visitors)}{' '}
            {window.isTooSmall && <span className={classes.small}>too small to use</span>}
          </>
        )}
      </td>
      <td>
        {audience && visits > 0
          ? `${percent(audience.outcomes.fired / visits)} of ${count(visits)} visits`
          : '–'}
      </td>
      <td>
        <FiresFor pixel={pixel} />
      </td>
    </tr>
  )
}

/** Where a pixel is attached, in words. */
function FiresFor({ pixel }: { pixel: Pixel }) {
  const campaigns = useQuery(vocabulary.campaigns)
  const channels = useQuery(vocabulary.channels)
  const names = [
    ...pixel.campaigns.map((key) => campaigns.data?.find((c) => c.key === key)?.name ?? key),
    ...pixel.channels.map((key) => channels.data?.find((c) => c.key === key)?.name ?? key),
    ...pixel.domains,
  ]
  return (
    <>
      {counted(pixel.links, 'link')}
      {names.length > 0 && <span className={classes.dim}> · {names.join(', ')}</span>}
    </>
  )
}
