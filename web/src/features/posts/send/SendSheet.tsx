import { Alert, Anchor, Text } from '@mantine/core'
import { useHotkeys, useLocalStorage } from '@mantine/hooks'
import { Link, useNavigate } from '@tanstack/react-router'
import { useEffect, useState } from 'react'
import { Problem, type Schema } from '../../../api/client'
import type { Campaign, Channel, Domain, Recipe } from '../../../api/vocabulary'
import { Page } from '../../../parts/Page'
import { AgreedWords } from '../AgreedWords'
import { CampaignField } from './CampaignField'
import { DestinationField } from './DestinationField'
import { fromRequest, newDraft, ticked, withRecipe, type Draft, type Row } from './draft'
import { withoutRow, withPasted, withRow, withVariant } from './draftChanges'
import { DraftsLine } from './DraftsLine'
import { PastedNote } from './PastedNote'
import { PlacementRows } from './rows/PlacementRows'
import { over, useUsual } from './useUsual'
import { RecipeField } from './RecipeField'
import { SendBar } from './SendBar'
import classes from './SendSheet.module.css'
import { useKeptDraft } from './useKeptDraft'
import { useLook } from './useLook'
import { usePreview } from './usePreview'
import { TitleField } from './TitleField'
import { useSaving } from './useSaving'

interface Props {
  destination: string
  /** A kept draft to go on with. */
  kept?: { id: string; content: Schema['PostRequest'] }
  channels: Channel[]
  domains: Domain[]
  campaigns: Campaign[]
  recipes: Recipe[]
  /** What a new workspace begins with: its first channels, all ticked, and its first campaign. */
  start?: { channels: string[]; campaign: string | null }
  onKept: (id: string) => void
  /** Begins an empty sheet. */
  onFresh: () => void
}

const firstFour = (channels: Channel[]) => channels.slice(0, 4).map((c) => c.key)

/** One post on one sheet: destination and campaign on top, a row for each channel, everything in sight. */
export function SendSheet({
  destination,
  kept,
  channels,
  domains,
  campaigns,
  recipes,
  start,
  onKept,
  onFresh,
}: Props) {
  const [lastTicked, setLastTicked] = useLocalStorage<string[] | null>({
    key: 'cursus-last-channels',
    defaultValue: null,
    getInitialValueInEffect: false,
  })
  const [draft, setDraft] = useState<Draft>(() =>
    kept
      ? { id: kept.id, ...fromRequest(kept.content, channels) }
      : {
          ...newDraft(destination, channels, start?.channels ?? lastTicked ?? firstFour(channels)),
          campaign: start?.campaign ?? null,
        },
  )
  const [recipe, setRecipe] = useState<string | null>(null)
  const [wasTried, setWasTried] = useState(false)
  const preview = usePreview(draft)
  const isAddress =
    draft.destination.trim() !== '' && !preview.errors.destination && preview.destination != null
  const look = useLook(draft.destination, isAddress)
  const { keepNow, letGo, isKept } = useKeptDraft(draft)
  const navigate = useNavigate()
  useEffect(() => {
    if (isKept) onKept(draft.id)
  }, [isKept, draft.id, onKept])

  const proposedTitle = look.data?.title ?? preview.proposedTitle
  const save = useSaving(draft, look.data?.title ?? null, async () => {
    setLastTicked([...new Set(ticked(draft).map((row) => row.channel))])
    await letGo()
  })

  const change = (part: Partial<Draft>) => setDraft((d) => ({ ...d, ...part }))
  const changeRow = (id: string, part: Partial<Row>) => setDraft((d) => withRow(d, id, part))

  function apply(chosen: Recipe) {
    setRecipe(chosen.id)
    setDraft((d) => withRecipe(d, chosen.content, channels))
  }

  function chooseCampaign(key: string) {
    change({ campaign: key })
    const byDefault = recipes.find((r) => r.id === campaigns.find((c) => c.key === key)?.recipe)
    if (byDefault && recipe === null) apply(byDefault)
  }

  const takeOver = (pasted: Schema['PreviewPostPasted']) =>
    setDraft((d) => withPasted(d, pasted, campaigns.find((c) => c.key === pasted.campaign)?.key))

  const links = ticked(draft).length
  function submit() {
    setWasTried(true)
    if (links > 0 && draft.destination.trim() !== '' && draft.campaign && !save.isPending) save.mutate()
  }
  useHotkeys([['mod+Enter', submit]], [])

  const shown = (field: string, isTouched: boolean) =>
    isTouched || wasTried ? preview.errors[field]?.join(' ') : undefined
  const verified = domains.filter((d) => d.isVerified)
  const standard = verified.find((d) => d.isDefault) ?? verified[0]
  const usual = useUsual(verified.find((d) => d.name === draft.all.domain) ?? standard)

  return (
    <Page
      title="New post"
      beside={
        <Anchor component={Link} to="/send/many" py={4}>
          Bulk
        </Anchor>
      }
    >
      <DraftsLine current={draft.id} onOpen={(id) => void navigate({ to: '/send', search: { draft: id } })} />
      <form
        onSubmit={(event) => {
          event.preventDefault()
          submit()
        }}
      >
        <div className={classes.top}>
          <DestinationField
            value={draft.destination}
            onChange={(value) => change({ destination: value })}
            isGiven={!kept && destination !== ''}
            look={look}
            error={
              shown('destination', draft.destination.trim() !== '') ??
              (wasTried && draft.destination.trim() === ''
                ? 'Paste the address of the page to link to.'
                : undefined)
            }
          />
          <CampaignField
            campaigns={campaigns}
            value={draft.campaign}
            onChange={chooseCampaign}
            error={wasTried && !draft.campaign ? 'Choose a campaign, or add one.' : undefined}
          />
          <TitleField
            value={draft.title}
            proposed={proposedTitle}
            isFromPage={Boolean(look.data?.title)}
            error={shown('title', draft.title.length > 200)}
            onChange={(title) => change({ title })}
          />
          <div className={classes.recipe}>
            <RecipeField
              recipes={recipes}
              value={recipe}
              draft={draft}
              onApply={apply}
              onSaved={(saved) => setRecipe(saved.id)}
            />
          </div>
        </div>

        {preview.pasted && (
          <PastedNote
            pasted={preview.pasted}
            choice={draft.pastedTags}
            onChoose={(pastedTags) => change({ pastedTags })}
            onTakeOver={() => takeOver(preview.pasted!)}
            onStrip={(address) => change({ destination: address })}
          />
        )}

        <AgreedWords channels={channels} />
        <PlacementRows
          rows={draft.rows}
          channels={channels}
          domains={domains}
          all={over(usual, draft.all)}
          destination={draft.destination}
          preview={preview.rows}
          domain={draft.all.domain ?? standard?.name ?? ''}
          missing={
            draft.destination.trim() === ''
              ? 'Paste the destination'
              : draft.campaign
                ? ''
                : 'Choose a campaign'
          }
          onChange={changeRow}
          onAddVariant={(row) => setDraft((d) => withVariant(d, row))}
          onRemove={(row) => setDraft((d) => withoutRow(d, row))}
        />

        <Trouble preview={preview.error} save={save.error} />
        {links === 0 && (
          <Text size="sm" c="dimmed" mt="sm">
            Tick the channels for this post.
          </Text>
        )}
        <SendBar
          draft={draft}
          domains={domains}
          usual={usual}
          preview={preview.rows}
          isSaving={save.isPending}
          onChange={(all) => change({ all })}
          onKeep={async () => {
            await keepNow()
            onFresh()
          }}
        />
      </form>
    </Page>
  )
}

/** Why there is no preview, or why nothing was saved. */
function Trouble({ preview, save }: { preview: Error | null; save: Error | null }) {
  if (!save && !preview) return null
  return (
    <Alert role="alert" variant="default" mt="sm" title={save ? 'Not saved yet' : 'No preview'}>
      {(save ?? preview)?.message}
      {save instanceof Problem &&
        Object.entries(save.errors)
          .filter(([field]) => !field.startsWith('placements['))
          .map(([field, texts]) => <div key={field}>{texts.join(' ')}</div>)}
    </Alert>
  )
}
