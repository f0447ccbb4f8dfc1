import { Button } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link, useNavigate, useSearch } from '@tanstack/react-router'
import { useCallback, useState } from 'react'
import { vocabulary } from '../../../api/vocabulary'
import { later } from '../../../parts/later'
import { Page } from '../../../parts/Page'
import { Empty, Failed, Loading } from '../../../parts/States'
import { mayEdit, useSession } from '../../access/session'
import { SendSheet } from './SendSheet'
import { draftsQuery } from './useKeptDraft'

// Only a new workspace needs these.
const FirstDomain = later('FirstDomain', () =>
  import('../../addresses/FirstDomain').then((m) => m.FirstDomain),
)
const StarterSet = later('StarterSet', () => import('../channels/StarterSet').then((m) => m.StarterSet))

export function SendPage() {
  const { to, draft } = useSearch({ from: '/members/send' })
  const navigate = useNavigate()
  // The open sheet and the draft it keeps: when the address begins to name that draft, the sheet stays as it is.
  const [own, setOwn] = useState<{ draft: string; key: string } | null>(null)
  const [round, setRound] = useState(0)
  const [start, setStart] = useState<{ channels: string[]; campaign: string | null }>()
  const sheetKey =
    own && own.draft === draft ? own.key : draft ? `draft ${draft}` : `page ${round} ${to ?? ''}`
  const isOther = draft !== undefined && own?.draft !== draft
  const session = useSession()
  const channels = useQuery(vocabulary.channels)
  const domains = useQuery(vocabulary.domains)
  const campaigns = useQuery(vocabulary.campaigns)
  const recipes = useQuery(vocabulary.recipes)
  // They stand above the sheet, which would move if they came later.
  const drafts = useQuery(draftsQuery)
  const kept = isOther ? drafts.data?.find((d) => d.id === draft) : undefined
  const isFetchingDraft = isOther && !kept && drafts.isFetching
  const onKept = useCallback(
    (id: string) => {
      setOwn({ draft: id, key: sheetKey })
      if (draft !== id) void navigate({ to: '/send', search: { draft: id }, replace: true })
    },
    [sheetKey, draft, navigate],
  )
  const failed = [channels, domains, campaigns, recipes].find((q) => q.isError)

  if (session && !mayEdit(session))
    return (
      <Page title="New post">
        <Empty title="Viewers can’t create links" action={<ToLinks />}>
          You can see links and reports. An owner of {session.workspace} can make you an editor.
        </Empty>
      </Page>
    )
  if (failed)
    return (
      <Page title="New post">
        <Failed error={failed.error} onRetry={() => void failed.refetch()} />
      </Page>
    )
  if (
    !channels.data ||
    !domains.data ||
    !campaigns.data ||
    !recipes.data ||
    drafts.isPending ||
    isFetchingDraft
  )
    return (
      <Page title="New post">
        <Loading />
      </Page>
    )
  const active = channels.data.filter((channel) => !channel.retiredAt)
  if (!domains.data.some((d) => d.isVerified))
    return (
      <Page title="New post">
        <FirstDomain workspace={session?.workspace ?? ''} />
      </Page>
    )
  if (active.length === 0)
    return (
      <Page title="New post">
        <StarterSet
          hasCampaigns={campaigns.data.length > 0}
          onAdded={(keys, campaign) => setStart({ channels: keys, campaign })}
        />
      </Page>
    )
  return (
    <SendSheet
      key={sheetKey}
      destination={to ?? ''}
      kept={kept}
      recipes={recipes.data}
      onKept={onKept}
      onFresh={() => {
        setOwn(null)
        setRound(round + 1)
        void navigate({ to: '/send', search: {} })
      }}
      channels={active}
      start={start}
      domains={domains.data}
      campaigns={campaigns.data}
    />
  )
}

function ToLinks() {
  return (
    <Button component={Link} to="/links">
      View links
    </Button>
  )
}
