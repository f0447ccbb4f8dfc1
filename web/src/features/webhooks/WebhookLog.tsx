import { Button, Group, Text } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read, wordsOf } from '../../api/client'
import { timeOf } from '../../parts/format/numbers'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { deliveriesQuery, eventLabel, useChange, type Delivery, type Webhook } from './webhooks'
import classes from './Webhooks.module.css'

/** What a webhook was sent, with what came of it. */
export function WebhookLog({ webhook }: { webhook: Webhook }) {
  const deliveries = useQuery(deliveriesQuery(webhook.id))
  if (deliveries.isError) return <Failed error={deliveries.error} onRetry={() => void deliveries.refetch()} />
  if (!deliveries.data) return <Loading rows={2} />
  if (deliveries.data.length === 0)
    return (
      <Text size="sm" mt="sm">
        It hasn’t been sent anything yet.
      </Text>
    )
  return (
    <Sheet columns={['Message', '']}>
      {deliveries.data.map((delivery) => (
        <DeliveryRow key={delivery.id} delivery={delivery} webhook={webhook} />
      ))}
    </Sheet>
  )
}

function DeliveryRow({ delivery, webhook }: { delivery: Delivery; webhook: Webhook }) {
  const [isOpen, setIsOpen] = useState(false)
  const resend = useChange(() =>
    read(
      api.POST('/api/v1/webhooks/{id}/deliveries/{delivery}/resend', {
        params: { path: { id: webhook.id, delivery: delivery.id } },
      }),
    ),
  )
  const name = `${eventLabel(delivery.event)}, ${timeOf(delivery.createdAt)}`
  return (
    <>
      <tr>
        <td>
          {eventLabel(delivery.event)}
          <Text span size="sm" c="dimmed">
            {` · ${timeOf(delivery.createdAt)}`}
          </Text>
          <br />
          <Result delivery={delivery} />
        </td>
        <td>
          <Group gap={4} justify="flex-end">
            <Button
              size="compact-sm"
              variant="subtle"
              aria-expanded={isOpen}
              aria-label={`Text of ${name}`}
              onClick={() => setIsOpen(!isOpen)}
            >
              Text
            </Button>
            {!webhook.pausedAt && (
              <Button
                size="compact-sm"
                variant="subtle"
                aria-label={`Send again: ${name}`}
                loading={resend.isPending}
                onClick={() => resend.mutate()}
              >
                Send again
              </Button>
            )}
          </Group>
          {resend.error && <div role="alert">{wordsOf(resend.error)}</div>}
        </td>
      </tr>
      {isOpen && (
        <tr>
          <td colSpan={2}>
            <pre className={classes.text}>{JSON.stringify(JSON.parse(delivery.body), null, 2)}</pre>
          </td>
        </tr>
      )}
    </>
  )
}

function Result({ delivery }: { delivery: Delivery }) {
  const tries = delivery.tries > 1 ? `, at try ${delivery.tries}` : ''
  if (delivery.failure)
    return (
      <>
        {delivery.failure}
        <Text size="sm" c="dimmed">
          {delivery.nextTryAt ? `Tried again ${timeOf(delivery.nextTryAt)}` : 'Given up'}
        </Text>
      </>
    )
  if (delivery.deliveredAt) return <>{`Arrived ${timeOf(delivery.deliveredAt)}${tries}`}</>
  return <>On its way</>
}
