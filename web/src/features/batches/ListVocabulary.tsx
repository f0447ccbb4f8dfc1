import { Alert, Button, Checkbox, Group, Stack, Text, TextInput } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read, wordsOf, type Schema } from '../../api/client'
import { counted } from '../../parts/format/numbers'
import { Failed, Loading } from '../../parts/States'
import classes from './Batch.module.css'
import type { BatchRequest } from './batches'

type Proposal = Schema['VocabularyProposal']
type Wanted = Schema['ListVocabularyRequest']

interface Props {
  batch: string
  columns: BatchRequest['columns']
}

/** Channels, campaigns and spellings that the list suggests, to be added before its links are created, or on their own. */
export function ListVocabulary({ batch, columns }: Props) {
  const [isOpen, setIsOpen] = useState(false)
  const proposal = useQuery({
    queryKey: ['batches', batch, 'vocabulary', columns],
    queryFn: () =>
      read(
        api.POST('/api/v1/batches/{id}/vocabulary/proposal', {
          params: { path: { id: batch } },
          body: { columns, isGoodOnly: false },
        }),
      ),
    enabled: isOpen,
  })
  return (
    <section aria-label="Vocabulary of the list" className={classes.remarks}>
      <Group justify="space-between" gap={12}>
        <Text>
          Set up channels and campaigns from these links, and merge different spellings of one value.
        </Text>
        <Button variant="default" aria-expanded={isOpen} onClick={() => setIsOpen(!isOpen)}>
          {isOpen ? 'Hide suggestions' : 'Suggest from this list'}
        </Button>
      </Group>
      {isOpen &&
        (proposal.isError ? (
          <Failed error={proposal.error} onRetry={() => void proposal.refetch()} />
        ) : proposal.data ? (
          <Choices key={proposal.dataUpdatedAt} batch={batch} proposal={proposal.data} />
        ) : (
          <Loading rows={4} />
        ))}
    </section>
  )
}

/** What of the proposal is new, to be ticked. A spelling is surely one; a typo may be meant. */
function Choices({ batch, proposal }: { batch: string; proposal: Proposal }) {
  const queries = useQueryClient()
  const channels = proposal.channels.filter((c) => !c.isKnown)
  const campaigns = proposal.campaigns.filter((c) => !c.isKnown)
  const merges = proposal.merges
  const [names, setNames] = useState<Record<string, string>>({})
  const [off, setOff] = useState<ReadonlySet<string>>(
    () => new Set(merges.filter((m) => m.kind === 'typo').map(mergeKey)),
  )
  const isOn = (key: string) => !off.has(key)
  const toggle = (key: string) =>
    setOff((before) => new Set(before.has(key) ? [...before].filter((k) => k !== key) : [...before, key]))
  const wanted: Required<Wanted> = {
    channels: channels
      .filter((c) => isOn(channelKey(c)))
      .map((c) => ({ name: names[channelKey(c)] ?? c.name, source: c.source, medium: c.medium })),
    campaigns: campaigns.filter((c) => isOn(campaignKey(c))).map(({ name, value }) => ({ name, value })),
    merges: merges.filter((m) => isOn(mergeKey(m))).map(({ field, from, into }) => ({ field, from, into })),
  }
  const sum = Object.values(wanted).reduce((all, list) => all + (list?.length ?? 0), 0)
  const add = useMutation({
    mutationFn: () =>
      read(api.POST('/api/v1/batches/{id}/vocabulary', { params: { path: { id: batch } }, body: wanted })),
    onSuccess: () =>
      Promise.all(
        [['channels'], ['campaigns'], ['tag-merges'], ['batches']].map((queryKey) =>
          queries.invalidateQueries({ queryKey }),
        ),
      ),
  })
  if (channels.length + campaigns.length + merges.length === 0)
    return (
      <Text mt="sm" role="status">
        Nothing to add: this workspace has all channels and campaigns of the list, each in one spelling.
      </Text>
    )
  return (
    <Stack gap="md" mt="sm">
      {channels.length > 0 && (
        <fieldset className={classes.choices}>
          <legend>Channels</legend>
          {channels.map((c) => (
            <Group key={channelKey(c)} gap={10} wrap="nowrap">
              <Checkbox
                aria-label={`Add channel ${c.name}`}
                checked={isOn(channelKey(c))}
                onChange={() => toggle(channelKey(c))}
              />
              <TextInput
                size="xs"
                w={170}
                aria-label={`Name of ${c.name}`}
                value={names[channelKey(c)] ?? c.name}
                onChange={(event) => setNames({ ...names, [channelKey(c)]: event.currentTarget.value })}
              />
              <Text size="sm" c="dimmed">
                {c.source} / {c.medium} · {counted(c.links, 'link')}
              </Text>
            </Group>
          ))}
        </fieldset>
      )}
      {campaigns.length > 0 && (
        <fieldset className={classes.choices}>
          <legend>Campaigns</legend>
          {campaigns.map((c) => (
            <Checkbox
              key={campaignKey(c)}
              label={`${c.name} (${c.value}) · ${counted(c.links, 'link')}`}
              checked={isOn(campaignKey(c))}
              onChange={() => toggle(campaignKey(c))}
            />
          ))}
        </fieldset>
      )}
      {merges.length > 0 && (
        <fieldset className={classes.choices}>
          <legend>Merge spellings</legend>
          {merges.map((m) => (
            <Checkbox
              key={mergeKey(m)}
              label={`${m.field}: “${m.from}” into “${m.into}” · ${counted(m.links, 'link')}${m.kind === 'typo' ? ', perhaps a typing error' : ''}`}
              checked={isOn(mergeKey(m))}
              onChange={() => toggle(mergeKey(m))}
            />
          ))}
        </fieldset>
      )}
      {add.error && (
        <Alert role="alert" variant="default" title="Nothing was added">
          {wordsOf(add.error)}
        </Alert>
      )}
      <Group>
        <Button disabled={sum === 0} loading={add.isPending} onClick={() => add.mutate()}>
          {sum === 0 ? 'Add' : `Add ${summary(wanted)}`}
        </Button>
      </Group>
    </Stack>
  )
}

const channelKey = (c: { source: string; medium: string }) => `channel ${c.source} ${c.medium}`
const campaignKey = (c: { value: string }) => `campaign ${c.value}`
const mergeKey = (m: { field: string; from: string }) => `merge ${m.field} ${m.from}`

/** "2 channels and 1 merge" */
function summary({ channels, campaigns, merges }: Wanted) {
  const parts = [
    [channels?.length ?? 0, 'channel'] as const,
    [campaigns?.length ?? 0, 'campaign'] as const,
    [merges?.length ?? 0, 'merge'] as const,
  ].flatMap(([n, word]) => (n > 0 ? [counted(n, word)] : []))
  return parts.length > 1 ? `${parts.slice(0, -1).join(', ')} and ${parts.at(-1)}` : (parts[0] ?? 'nothing')
}
