import { Button, Group } from '@mantine/core'
import { notifications } from '@mantine/notifications'
import { useQueryClient } from '@tanstack/react-query'
import { addressOf } from '../../parts/format/addressText'
import { api, read } from '../../api/client'
import { tellFailure } from '../../parts/tellFailure'
import { cleanAddress } from '../addresses/cleanAddress'
import { useOpenCode } from '../codes/useOpenCode'

const seconds = 1000

/** Makes one link without a post, copies it, and offers to take it back. */
export function useQuickLink() {
  const queries = useQueryClient()
  const openCode = useOpenCode()
  const refresh = () => queries.invalidateQueries({ queryKey: ['links'] })

  async function undo(id: string) {
    notifications.hide(`quick-${id}`)
    await read(api.POST('/api/v1/links/{id}/undo', { params: { path: { id } } }))
    await refresh()
    notifications.show({ message: 'Undone', autoClose: 2 * seconds })
  }

  async function make(pasted: string) {
    const { address: destination, isChanged } = await cleanAddress(pasted)
    const link = await read(api.POST('/api/v1/links', { body: { destination } }))
    const isCopied = await navigator.clipboard.writeText(link.shortUrl).then(
      () => true,
      () => false,
    )
    await refresh()
    notifications.show({
      id: `quick-${link.id}`,
      autoClose: 10 * seconds,
      message: (
        <Group justify="space-between" wrap="nowrap">
          {addressOf(link.shortUrl)}
          {isCopied && ' is copied'}
          {isChanged && '. Removed what was around the address.'}
          <Group gap={6} wrap="nowrap">
            <Button size="compact-sm" variant="default" onClick={() => openCode(link.id)}>
              QR code
            </Button>
            <Button size="compact-sm" variant="default" onClick={() => void undo(link.id).catch(tellFailure)}>
              Undo
            </Button>
          </Group>
        </Group>
      ),
    })
  }

  return (pasted: string) => void make(pasted).catch(tellFailure)
}
