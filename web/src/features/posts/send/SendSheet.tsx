import { Alert, Anchor, Text, TextInput } from '@mantine/core'
import { useHotkeys, useLocalStorage } from '@mantine/hooks'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Link, useNavigate } from '@tanstack/react-router'
import { useEffect, useState } from 'react'
import { api, Problem, read, type Schema } from '../../../api/client'
import type { Campaign, Channel, Domain, Recipe } from '../../../api/vocabulary'
import { Page } from '../../../parts/Page'
import { AgreedWords } from '../AgreedWords'
import { CampaignField } from './CampaignField'
import { DestinationField } from './DestinationField'
import { fromRequest, newDraft, newRow, ticked, toRequest, withRecipe, type Draft, type Row } from './draft'
import { DraftsLine } from './DraftsLine'
import { offerUndo } from '../handout/offerUndo'
import { PastedNote } from './PastedNote'
import { PlacementRows } from './PlacementRows'
import { over, useUsual } from './useUsual'
import { RecipeField } from './RecipeField'
import { SendBar } from './SendBar'
import classes from './SendSheet.module.css'
import { useKeptDraft } from './useKeptDraft'
import { useLook } from './useLook'
import { askPreview, usePreview } from './usePreview'

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
  const queries = useQueryClient()
  const navigate = useNavigate()
  useEffect(() => {
    if (isKept) onKept(draft.id)
  }, [isKept, draft.id, onKept])

  const proposedTitle = look.data?.title ?? preview.proposedTitle
  const save = useMutation({
    mutationFn: async () => {
      // The preview on the screen may be a moment behind somebody who types quickly; saving goes by a fresh one.
      const fresh = await askPreview(draft)
      const title = (look.data?.title ?? fresh.proposedTitle).slice(0, 200)
      const slugs = new Map(
        ticked(draft).flatMap((row, i) => {
          const proposed = fresh.placements[i]
          return proposed?.slug && !proposed.isTaken ? [[row.id, proposed.slug] as const] : []
        }),
      )
      return read(api.POST('/api/v1/posts', { body: toRequest(draft, { title, slugs }) }))
    },
    onSuccess: async (post) => {
      setLastTicked([...new Set(ticked(draft).map((row) => row.channel))])
      queries.setQueryData(['post', post.id], post)
      for (const queryKey of [['links'], ['tags'], ['find']]) void queries.invalidateQueries({ queryKey })
      await letGo()
      await navigate({ to: '/posts/$postId', params: { postId: post.id } })
      offerUndo(post, draft, queries, (id) => navigate({ to: '/send', search: { draft: id } }))
    },
    // A slug lost to somebody else in this moment shows with its alternatives in its row.
    onError: () => void preview.refetch(),
  })

  const change = (part: Partial<Draft>) => setDraft((d) => ({ ...d, ...part }))
  const changeRow = (id: string, part: Partial<Row>) =>
    setDraft((d) => ({ ...d, rows: d.rows.map((row) => (row.id === id ? { ...row, ...part } : row)) }))
  const addVariant = (row: Row) =>
    setDraft((d) => ({
      ...d,
      rows: d.rows.flatMap((r) =>
        r.id === row.id ? [{ ...r, isOn: true }, newRow(row.channel, true)] : [r],
      ),
    }))

  function apply(chosen: Recipe) {
    setRecipe(chosen.id)
    setDraft((d) => withRecipe(d, chosen.content, channels))
  }

  function chooseCampaign(key: string) {
    change({ campaign: key })
    const byDefault = recipes.find((r) => r.id === campaigns.find((c) => c.key === key)?.recipe)
    if (byDefault && recipe === null) apply(byDefault)
  }

  function takeOver(pasted: Schema['PreviewPostPasted']) {
    const campaign = campaigns.find((c) => c.key === pasted.campaign)
    setDraft((d) => ({
      ...d,
      pastedTags: 'replace',
      campaign: campaign?.key ?? d.campaign,
      rows: d.rows.map((row) => ({
        ...row,
        source: pasted.source ?? row.source,
        medium: pasted.medium ?? row.medium,
        term: pasted.term ?? row.term,
        content: pasted.content ?? row.content,
      })),
    }))
  }

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
          <div className={classes.title}>
            <TextInput
              label="Title"
              size="sm"
              placeholder={proposedTitle || 'For you and your colleagues only'}
              rightSectionWidth={130}
              rightSectionPointerEvents="none"
              rightSection={
                draft.title === '' && proposedTitle !== '' ? (
                  <span className={classes.look}>
                    {look.data?.title ? 'from the page' : 'from the address'}
                  </span>
                ) : null
              }
              value={draft.title}
              onChange={(event) => change({ title: event.currentTarget.value })}
              error={
                draft.title === '' && proposedTitle !== ''
                  ? undefined
                  : shown('title', draft.title.length > 200)
              }
            />
          </div>
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
          onAddVariant={addVariant}
          onRemove={(row) => setDraft((d) => ({ ...d, rows: d.rows.filter((r) => r.id !== row.id) }))}
        />

        {(preview.error ?? save.error) && (
          <Alert role="alert" variant="default" mt="sm" title={save.error ? 'Not saved yet' : 'No preview'}>
            {(save.error ?? preview.error)?.message}
            {save.error instanceof Problem &&
              Object.entries(save.error.errors)
                .filter(([field]) => !field.startsWith('placements['))
                .map(([field, texts]) => <div key={field}>{texts.join(' ')}</div>)}
          </Alert>
        )}
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
