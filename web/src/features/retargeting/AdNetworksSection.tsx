import { Alert, Button, Group, Text, Textarea } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read, wordsOf, type Schema } from '../../api/client'
import { count } from '../../parts/format/numbers'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { useSession } from '../access/session'
import { networksQuery } from './pixels'

type AdNetwork = Schema['AdNetwork']

const kinds = {
  image: 'a picture',
  beacon: 'a message',
  script: 'its script, by calls',
  container: 'its script, by a list',
} as const

/** A network to begin with: every field that most need. */
const example = {
  key: 'night-ads',
  name: 'Night Ads',
  takes: 'id',
  idPattern: 'NA-[0-9]{8}',
  idExample: 'NA-20441733',
  find: ["nightAds\\('(?<id>NA-[0-9]{8})'\\)"],
  fires: { kind: 'image', address: 'https://night-ads.example/hit?pixel={id}&page={link}&n={random}' },
  event: 'visit',
  consent: 'advertising',
  smallestAudience: 100,
}

/** How pixels of each ad network look and are fired. A workspace adds its own as a description, not as code. */
export function AdNetworksSection() {
  const networks = useQuery(networksQuery)
  const isOwner = useSession()?.role === 'owner'
  const [editing, setEditing] = useState<{ key: string | undefined; text: string }>()
  const queries = useQueryClient()
  const refresh = () => queries.invalidateQueries({ queryKey: ['ad-networks'] })
  const remove = useMutation({
    mutationFn: (key: string) => read(api.DELETE('/api/v1/ad-networks/{key}', { params: { path: { key } } })),
    onSuccess: refresh,
  })
  if (networks.isError) return <Failed error={networks.error} onRetry={() => void networks.refetch()} />
  if (!networks.data) return <Loading rows={4} />
  return (
    <>
      <Sheet
        about="Each description says how to recognise and fire a network’s pixels. The last three work with any network, using the address its pixel calls."
        columns={['Network', 'Fired with', 'ID', 'Smallest audience', 'Pixels', '']}
      >
        {networks.data.map(({ network, isOwn, pixels }) => (
          <tr key={network.key}>
            <td>{network.name}</td>
            <td>{kinds[network.fires.kind]}</td>
            <td>
              <code>
                {network.idExample ?? (network.takes === 'address' ? 'its address' : network.idPattern)}
              </code>
            </td>
            <td>
              {network.smallestAudience === null || network.smallestAudience === undefined
                ? '–'
                : count(network.smallestAudience)}
            </td>
            <td>{count(pixels)}</td>
            <td style={{ textAlign: 'right' }}>
              {isOwner && isOwn && (
                <Group gap={8} justify="flex-end" wrap="nowrap">
                  <Button
                    size="compact-sm"
                    variant="subtle"
                    aria-label={`Change ${network.name}`}
                    onClick={() => setEditing({ key: network.key, text: JSON.stringify(network, null, 2) })}
                  >
                    Change
                  </Button>
                  <Button
                    size="compact-sm"
                    variant="subtle"
                    aria-label={`Remove ${network.name}`}
                    onClick={() => remove.mutate(network.key)}
                  >
                    Remove
                  </Button>
                </Group>
              )}
            </td>
          </tr>
        ))}
      </Sheet>
      {remove.isError && <Failed error={remove.error} />}
      {isOwner && !editing && (
        <Button
          mt="md"
          onClick={() => setEditing({ key: undefined, text: JSON.stringify(example, null, 2) })}
        >
          Add a network
        </Button>
      )}
      {editing && (
        <Description
          key={editing.key ?? ''}
          of={editing.key}
          initial={editing.text}
          onDone={() => {
            setEditing(undefined)
            void refresh()
          }}
        />
      )}
    </>
  )
}

function Description({
  of,
  initial,
  onDone,
}: {
  of: string | undefined
  initial: string
  onDone: () => void
}) {
  const [text, setText] = useState(initial)
  const save = useMutation({
    mutationFn: async () => {
      const body = parsed(text)
      await read(
        of
          ? api.PUT('/api/v1/ad-networks/{key}', { params: { path: { key: of } }, body })
          : api.POST('/api/v1/ad-networks', { body }),
      )
    },
    onSuccess: onDone,
  })
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        save.mutate()
      }}
    >
      <Textarea
        mt="md"
        maw={820}
        label={of ? `Description of ${of}` : 'Network description'}
        autosize
        minRows={8}
        spellCheck={false}
        styles={{ input: { fontFamily: 'var(--mantine-font-family-monospace)', fontSize: 13 } }}
        value={text}
        onChange={(event) => setText(event.currentTarget.value)}
      />
      <Text size="sm" c="dimmed" mt={6} maw={820}>
        Macros in addresses and calls:{' '}
        {'{id} {event} {link} {destination} {campaign} {source} {medium} {random} {time}'}. Kinds: image,
        beacon, script, container.
      </Text>
      {save.isError && (
        <Alert mt="sm" role="alert" variant="default" title="Not saved" maw={820}>
          {save.error instanceof SyntaxError
            ? `Not valid JSON: ${save.error.message}. Check commas and quotes.`
            : wordsOf(save.error)}
        </Alert>
      )}
      <Group mt="sm" gap={8}>
        <Button type="submit" loading={save.isPending}>
          Save description
        </Button>
        <Button variant="default" onClick={onDone}>
          Cancel
        </Button>
      </Group>
    </form>
  )
}

/** The description as typed; the server says what is wrong with it. */
const parsed = (text: string) => JSON.parse(text) as AdNetwork
