import { addressOf } from '../../../parts/format/addressText'
import { ActionIcon, Button, Group, Text, Tooltip } from '@mantine/core'
import { IconX } from '@tabler/icons-react'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { discard, draftsQuery } from './useKeptDraft'

/** Posts that were begun and not sent, to go on with. */
export function DraftsLine({ current, onOpen }: { current: string; onOpen: (id: string) => void }) {
  const drafts = useQuery(draftsQuery)
  const queries = useQueryClient()
  const remove = useMutation({
    mutationFn: discard,
    onSettled: () => queries.invalidateQueries({ queryKey: ['drafts'] }),
  })
  const others = (drafts.data ?? []).filter((d) => d.id !== current)
  if (others.length === 0) return null
  return (
    <Group gap={6} mb="md" role="group" aria-label="Drafts">
      <Text size="sm" c="dimmed">
        Not sent yet:
      </Text>
      {others.slice(0, 4).map((draft) => {
        const name =
          draft.content.title ??
          (draft.content.destination && addressOf(draft.content.destination)) ??
          'a draft'
        return (
          <Button.Group key={draft.id}>
            <Button size="compact-sm" variant="default" maw={240} onClick={() => onOpen(draft.id)}>
              {name}
            </Button>
            <Tooltip label="Discard draft">
              <ActionIcon
                variant="default"
                size={26}
                aria-label={`Discard the draft ${name}`}
                onClick={() => remove.mutate(draft.id)}
              >
                <IconX size={14} />
              </ActionIcon>
            </Tooltip>
          </Button.Group>
        )
      })}
    </Group>
  )
}
