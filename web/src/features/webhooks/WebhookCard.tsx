import { Button, Group, Text } from '@mantine/core'
import { useState } from 'react'
import { api, read, wordsOf } from '../../api/client'
import { timeOf } from '../../parts/format/numbers'
import { eventLabel, useChange, type Webhook } from './webhooks'
import { WebhookLog } from './WebhookLog'
import classes from './Webhooks.module.css'

/** One webhook: what it is told, how it is doing, and what it was sent. */
export function WebhookCard({ webhook }: { webhook: Webhook }) {
  const [isLogOpen, setIsLogOpen] = useState(false)
  const [isSure, setIsSure] = useState(false)
  const path = { id: webhook.id }
  const pause = useChange((isPaused: boolean) =>
    read(api.PATCH('/api/v1/webhooks/{id}', { params: { path }, body: { isPaused } })),
  )
  const test = useChange(() => read(api.POST('/api/v1/webhooks/{id}/test', { params: { path } })))
  const remove = useChange(() => read(api.DELETE('/api/v1/webhooks/{id}', { params: { path } })))
  const error = pause.error ?? test.error ?? remove.error
  return (
    <section className={classes.card} aria-label={webhook.address}>
      <Text fw={600} style={{ overflowWrap: 'anywhere' }}>
        {webhook.address}
      </Text>
      <Text size="sm" c="dimmed">
        {webhook.events.map(eventLabel).join(' · ')}
      </Text>
      <State webhook={webhook} />
      <Group gap={8} mt="sm">
        <Button
          variant="default"
          size="compact-md"
          aria-expanded={isLogOpen}
          onClick={() => setIsLogOpen(!isLogOpen)}
        >
          Messages
        </Button>
        {!webhook.pausedAt && (
          <Button
            variant="default"
            size="compact-md"
            loading={test.isPending}
            onClick={() => test.mutate(undefined, { onSuccess: () => setIsLogOpen(true) })}
          >
            Send a test
          </Button>
        )}
        <Button
          variant="default"
          size="compact-md"
          loading={pause.isPending}
          onClick={() => pause.mutate(!webhook.pausedAt)}
        >
          {webhook.pausedAt ? 'Resume' : 'Pause'}
        </Button>
        {isSure ? (
          <>
            <Button
              color="red"
              size="compact-md"
              loading={remove.isPending}
              onClick={() => remove.mutate(undefined)}
            >
              Delete webhook and messages
            </Button>
            <Button variant="default" size="compact-md" onClick={() => setIsSure(false)}>
              Cancel
            </Button>
          </>
        ) : (
          <Button variant="default" size="compact-md" onClick={() => setIsSure(true)}>
            Delete
          </Button>
        )}
      </Group>
      {error && <div role="alert">{wordsOf(error)}</div>}
      {isLogOpen && (
        <div className={classes.log}>
          <WebhookLog webhook={webhook} />
        </div>
      )}
    </section>
  )
}

function State({ webhook }: { webhook: Webhook }) {
  if (webhook.pausedAt)
    return (
      <Text size="sm">
        Paused since {timeOf(webhook.pausedAt)}. {webhook.pausedWhy} It is told nothing meanwhile.
      </Text>
    )
  if (webhook.failingSince)
    return <Text size="sm">Nothing has arrived since {timeOf(webhook.failingSince)}. It is tried again.</Text>
  return null
}
