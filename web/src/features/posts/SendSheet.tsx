import { Alert, Button, Group, Kbd, Select, TagsInput, Text, TextInput } from '@mantine/core'
import { useHotkeys, useLocalStorage } from '@mantine/hooks'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { api, Problem, read } from '../../api/client'
import { vocabulary, type Campaign, type Channel, type Domain } from '../../api/vocabulary'
import { Page } from '../../parts/Page'
import { redirects } from '../../parts/redirects'
import { CampaignField } from './CampaignField'
import { newDraft, newRow, ticked, toRequest, type Draft, type Row } from './draft'
import { PlacementRows } from './PlacementRows'
import classes from './SendSheet.module.css'
import { askPreview, usePreview } from './usePreview'

interface Props {
  destination: string
  channels: Channel[]
  domains: Domain[]
  campaigns: Campaign[]
}

const firstFour = (channels: Channel[]) => channels.slice(0, 4).map((c) => c.key)

/** One post on one sheet: destination and campaign on top, a row for each channel, everything in sight. */
export function SendSheet({ destination, channels, domains, campaigns }: Props) {
  const [lastTicked, setLastTicked] = useLocalStorage<string[] | null>({
    key: 'cursus-last-channels',
    defaultValue: null,
    getInitialValueInEffect: false,
  })
  const [draft, setDraft] = useState<Draft>(() =>
    newDraft(destination, channels, lastTicked ?? firstFour(channels)),
  )
  const preview = usePreview(draft)
  const tags = useQuery(vocabulary.tags)
  const queries = useQueryClient()
  const navigate = useNavigate()
  const [wasTried, setWasTried] = useState(false)

  const save = useMutation({
    mutationFn: async () => {
      // The preview on the screen may be a moment behind somebody who types quickly; saving goes by a fresh one.
      const { proposedTitle, placements } = await askPreview(draft)
      const slugs = new Map(
        ticked(draft).flatMap((row, i) => {
          const proposed = placements[i]
          return proposed?.slug && !proposed.isTaken ? [[row.id, proposed.slug] as const] : []
        }),
      )
      return read(api.POST('/api/v1/posts', { body: toRequest(draft, { title: proposedTitle, slugs }) }))
    },
    onSuccess: async (post) => {
      setLastTicked([...new Set(ticked(draft).map((row) => row.channel))])
      queries.setQueryData(['post', post.id], post)
      void queries.invalidateQueries({ queryKey: ['links'] })
      void queries.invalidateQueries({ queryKey: ['tags'] })
      await navigate({ to: '/posts/$postId', params: { postId: post.id } })
    },
    // A slug lost to somebody else in this moment shows with its alternatives in its row.
    onError: () => void preview.refetch(),
  })

  const change = (part: Partial<Draft>) => setDraft((d) => ({ ...d, ...part }))
  const changeRow = (id: string, part: Partial<Row>) =>
    setDraft((d) => ({ ...d, rows: d.rows.map((row) => (row.id === id ? { ...row, ...part } : row)) }))

  function addVariant(row: Row) {
    setDraft((d) => ({
      ...d,
      rows: d.rows.flatMap((r) =>
        r.id === row.id ? [{ ...r, isOn: true }, newRow(row.channel, true)] : [r],
      ),
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
  const longest = longestSaving(draft, preview)

  return (
    <Page title="A new post">
      <form
        onSubmit={(event) => {
          event.preventDefault()
          submit()
        }}
      >
        <div className={classes.top}>
          <TextInput
            label="Destination"
            placeholder="Paste the page's address"
            autoFocus
            value={draft.destination}
            onChange={(event) => change({ destination: event.currentTarget.value })}
            error={
              shown('destination', draft.destination.trim() !== '') ??
              (wasTried && draft.destination.trim() === ''
                ? 'Paste the address of the page that the links should lead to.'
                : undefined)
            }
          />
          <CampaignField
            campaigns={campaigns}
            value={draft.campaign}
            onChange={(campaign) => change({ campaign })}
            error={
              wasTried && !draft.campaign
                ? 'Choose the campaign that this belongs to, or add one.'
                : undefined
            }
          />
          <TextInput
            label="Title"
            placeholder={preview.proposedTitle || 'For you and your colleagues only'}
            value={draft.title}
            onChange={(event) => change({ title: event.currentTarget.value })}
            error={
              draft.title === '' && preview.proposedTitle !== ''
                ? undefined
                : shown('title', draft.title.trim() !== '')
            }
          />
        </div>

        <PlacementRows
          rows={draft.rows}
          channels={channels}
          preview={preview.rows}
          domain={draft.domain ?? verified.find((d) => d.isDefault)?.name ?? verified[0]?.name ?? ''}
          onChange={changeRow}
          onAddVariant={addVariant}
          onRemove={(row) => setDraft((d) => ({ ...d, rows: d.rows.filter((r) => r.id !== row.id) }))}
        />

        <div className={classes.bottom}>
          {(preview.error ?? save.error) && (
            <Alert
              role="alert"
              variant="default"
              w="100%"
              title={save.error ? 'Not saved yet' : 'No preview'}
            >
              {(save.error ?? preview.error)?.message}
              {save.error instanceof Problem &&
                Object.entries(save.error.errors)
                  .filter(([field]) => !field.startsWith('placements['))
                  .map(([field, texts]) => <div key={field}>{texts.join(' ')}</div>)}
            </Alert>
          )}
          <Group gap={8} wrap="wrap" align="center">
            <Text size="sm" c="dimmed">
              For all:
            </Text>
            <TagsInput
              aria-label="Tags"
              placeholder={draft.tags.length === 0 ? '+ tag' : ''}
              data={tags.data?.map((t) => t.name) ?? []}
              value={draft.tags}
              onChange={(names) => change({ tags: names })}
              w={220}
              size="sm"
            />
            {verified.length > 1 && (
              <Select
                aria-label="Short domain"
                size="sm"
                w={180}
                data={verified.map((d) => d.name)}
                value={draft.domain ?? verified.find((d) => d.isDefault)?.name ?? null}
                onChange={(domain) => change({ domain })}
              />
            )}
            <Select
              aria-label="Redirect type"
              size="sm"
              w={160}
              comboboxProps={{ width: 240, position: 'bottom-start' }}
              data={redirects}
              value={String(draft.redirect)}
              onChange={(redirect) => change({ redirect: Number(redirect) })}
            />
          </Group>
          <Group gap={16} className={classes.save}>
            {longest && (
              <Text size="sm" c="dimmed">
                {longest.from} → {longest.to} characters
              </Text>
            )}
            <Button
              type="submit"
              size="md"
              disabled={links === 0}
              loading={save.isPending}
              rightSection={
                <Kbd size="xs" className={classes.kbd}>
                  Ctrl ↵
                </Kbd>
              }
            >
              {links === 1 ? 'Save one link' : `Save ${links} links`}
            </Button>
          </Group>
        </div>
      </form>
    </Page>
  )
}

/** How many characters the longest address becomes how few. */
function longestSaving(draft: Draft, preview: ReturnType<typeof usePreview>) {
  const rows = ticked(draft).flatMap((row) => preview.rows.get(row.id) ?? [])
  const longest = rows.toSorted((a, b) => (b.finalUrl?.length ?? 0) - (a.finalUrl?.length ?? 0))[0]
  return longest?.finalUrl && longest.shortUrl
    ? { from: longest.finalUrl.length, to: longest.shortUrl.length }
    : undefined
}
