import { Text } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Failed, Loading } from '../../parts/States'
import { useSession } from '../access/session'
import { AddWebhook } from './AddWebhook'
import { WebhookCard } from './WebhookCard'
import { webhooksQuery } from './webhooks'

/** Addresses of other programs that are told what happens here. */
export function WebhooksSection() {
  const isOwner = useSession()?.role === 'owner'
  const webhooks = useQuery({ ...webhooksQuery, enabled: isOwner })
  if (!isOwner) return <Text>Only owners can see and change webhooks.</Text>
  if (webhooks.isError) return <Failed error={webhooks.error} onRetry={() => void webhooks.refetch()} />
  if (!webhooks.data) return <Loading rows={3} />
  return (
    <>
      <Text c="dimmed" size="sm" mb="md" maw={640}>
        A webhook tells another program what happens here, within seconds: a chat, a sheet, your own system.
        Each message is signed, and sent again for three days if it doesn’t arrive.
      </Text>
      {webhooks.data.map((webhook) => (
        <WebhookCard key={webhook.id} webhook={webhook} />
      ))}
      {webhooks.data.length === 0 && <Text mb="md">No webhooks yet.</Text>}
      <AddWebhook />
    </>
  )
}
