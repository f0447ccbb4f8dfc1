import { queryOptions } from '@tanstack/react-query'
import { api, read, type Schema } from '../../api/client'
import { useChangeOf } from '../../api/useChangeOf'

export type Webhook = Schema['WebhooksResponse']
export type Delivery = Schema['WebhookLogResponse']
export type Event = Exclude<Schema['WebhookEventKind'], 'test'>

/** What webhooks can be told of, as people say it. */
export const events: { value: Event; label: string }[] = [
  { value: 'link-created', label: 'A link was created' },
  { value: 'destination-changed', label: 'A destination was changed' },
  { value: 'page-died', label: 'A page died' },
  { value: 'page-back', label: 'A page came back' },
  { value: 'milestone-reached', label: 'A link reached 100, 1,000, 10,000 … clicks' },
  { value: 'digest-ready', label: 'The weekly digest is ready' },
]

export const eventLabel = (event: Schema['WebhookEventKind']) =>
  events.find((e) => e.value === event)?.label ?? 'Test'

export const webhooksQuery = queryOptions({
  queryKey: ['webhooks'],
  queryFn: () =>
    read(api.GET('/api/v1/webhooks', { params: { query: { limit: 500 } } })).then((page) => page.items),
  refetchInterval: 5000,
})

/** The last messages of a webhook. They are sent within seconds, and looked at again while something is on its way. */
export const deliveriesQuery = (id: string) =>
  queryOptions({
    queryKey: ['webhooks', id, 'deliveries'],
    queryFn: () =>
      read(
        api.GET('/api/v1/webhooks/{id}/deliveries', { params: { path: { id }, query: { limit: 50 } } }),
      ).then((page) => page.items),
    refetchInterval: 3000,
  })

/** A change of webhooks: afterwards they and their logs are read again. */
export const useChange = <Variables = void, Data = unknown>(
  change: (variables: Variables) => Promise<Data>,
) => useChangeOf(['webhooks'], change)
