import { Button, Checkbox, Text, TextInput } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, Problem, read, wordsOf, type Schema } from '../../../api/client'
import { counted } from '../../../parts/format/numbers'
import { Signet } from '../../../parts/Signet'
import { Failed, Loading } from '../../../parts/States'
import classes from './StarterSet.module.css'

type Starter = Schema['StarterChannel']

/** What a first post is counted under until somebody chooses otherwise: the trade’s word for posts outside campaigns. */
const firstCampaign = 'Always on'

interface Props {
  hasCampaigns: boolean
  /** Called with the keys of the new channels and of the first campaign, once both are there. */
  onAdded: (channels: string[], campaign: string | null) => void
}

/** The channels of a new workspace: tick those one posts to, rename them on the spot, and go on to the first post. */
export function StarterSet(props: Props) {
  const starters = useQuery({
    queryKey: ['channels', 'starter-set'],
    queryFn: () => read(api.GET('/api/v1/channels/starter-set')),
    staleTime: Infinity,
  })
  if (starters.isError) return <Failed error={starters.error} onRetry={() => void starters.refetch()} />
  if (!starters.data) return <Loading rows={9} />
  return <Rows starters={starters.data} {...props} />
}

function Rows({ starters, hasCampaigns, onAdded }: Props & { starters: Starter[] }) {
  const queries = useQueryClient()
  const [rows, setRows] = useState(() => starters.map((s) => ({ ...s, isOn: s.isUsual, typed: s.name })))
  const [campaign, setCampaign] = useState(firstCampaign)
  const change = (i: number, part: Partial<(typeof rows)[number]>) =>
    setRows((all) => all.map((row, at) => (at === i ? { ...row, ...part } : row)))
  const ticked = rows.filter((row) => row.isOn)
  // Where only the campaign failed, its next try must not add the channels again.
  const added = useMutation({
    mutationFn: () =>
      read(api.POST('/api/v1/channels/starter-set', { body: { channels: ticked.map(toRequest) } })),
  })
  const add = useMutation({
    mutationFn: async () => {
      const channels = added.data ?? (await added.mutateAsync())
      const first =
        hasCampaigns || campaign.trim() === ''
          ? null
          : await read(api.POST('/api/v1/campaigns', { body: { name: campaign } }))
      return { channels: channels.map((channel) => channel.key), campaign: first?.key ?? null }
    },
    onSuccess: async ({ channels, campaign }) => {
      onAdded(channels, campaign)
      await Promise.all(
        [['channels'], ['campaigns']].map((queryKey) => queries.invalidateQueries({ queryKey })),
      )
    },
  })
  const errors = add.error instanceof Problem ? add.error.errors : {}
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        if (ticked.length > 0) add.mutate()
      }}
    >
      <Text c="dimmed" mb="sm" maw={720}>
        Tick the channels you post to, and rename them to what you call them. You can change all of this later
        in Settings.
      </Text>
      <div className={classes.columns}>
        <ul className={classes.rows} aria-label="Channels to start with">
          {rows.map((row, i) => (
            <li key={row.name}>
              <Checkbox
                aria-label={`Use ${row.name}`}
                checked={row.isOn}
                onChange={(event) => change(i, { isOn: event.currentTarget.checked })}
              />
              <Signet channel={{ signet: signetOf(row), color: row.color }} />
              <TextInput
                aria-label={`Name of ${row.name}`}
                size="sm"
                value={row.typed}
                onFocus={(event) => event.currentTarget.select()}
                onChange={(event) => change(i, { typed: event.currentTarget.value, isOn: true })}
                error={row.isOn && errors[`channels[${ticked.indexOf(row)}].name`]?.join(' ')}
              />
              <span className={classes.medium}>{row.medium}</span>
            </li>
          ))}
        </ul>
        <div>
          {!hasCampaigns && (
            <TextInput
              label="First campaign"
              description="A campaign groups posts with one goal. “Always on” suits everyday posts."
              value={campaign}
              error={errors.name?.join(' ')}
              onChange={(event) => setCampaign(event.currentTarget.value)}
            />
          )}
          {add.error && Object.keys(errors).length === 0 && (
            <Text role="alert" size="sm" c="var(--bad)" mt="sm">
              {wordsOf(add.error)}
            </Text>
          )}
          <Button type="submit" size="md" mt="md" disabled={ticked.length === 0} loading={add.isPending}>
            {ticked.length === 0 ? 'Tick at least one channel' : `Use ${counted(ticked.length, 'channel')}`}
          </Button>
        </div>
      </div>
    </form>
  )
}

type Row = Starter & { typed: string }

const isRenamed = (row: Row) => row.typed.trim() !== row.name

/** The letters of a renamed channel come from its own name. */
const signetOf = (row: Row) => (isRenamed(row) ? row.typed.trim().slice(0, 2) : row.signet)

/** A renamed channel keeps its colour; its source and medium are proposed from the new name, but for what the kind of channel says. */
const toRequest = (row: Row) => ({
  name: row.typed,
  color: row.color,
  signet: signetOf(row) || undefined,
  medium: row.medium,
})
