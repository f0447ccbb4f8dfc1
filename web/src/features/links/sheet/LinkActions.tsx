import { ActionIcon, Button, Group, Menu } from '@mantine/core'
import { notifications } from '@mantine/notifications'
import {
  IconArchive,
  IconArchiveOff,
  IconCopy,
  IconCopyPlus,
  IconDots,
  IconExternalLink,
  IconPencil,
  IconTrash,
} from '@tabler/icons-react'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { within } from '../../../api/address'
import { api, read } from '../../../api/client'
import { tellFailure } from '../../../parts/tellFailure'
import { addressOf } from '../../../parts/format/addressText'
import { copy } from '../../../parts/files/copy'
import { CodeButton } from '../../codes/CodeButton'
import { linkChanged, linksChanged, seen, type Link } from '../links'

interface Props {
  link: Link
  mayChange: boolean
  onChange: () => void
  onDelete: () => void
}

/** What is done with one link: the frequent in sight, the rest in a menu. */
export function LinkActions({ link, mayChange, onChange, onDelete }: Props) {
  const queries = useQueryClient()
  const navigate = useNavigate()
  const archive = useMutation({
    mutationFn: (isArchived: boolean) =>
      read(
        api.PATCH('/api/v1/links/{id}', {
          params: { path: { id: link.id } },
          headers: seen(link),
          body: { isArchived },
        }),
      ),
    onSuccess: (changed) => linkChanged(queries, changed),
    onError: tellFailure,
  })
  const duplicate = useMutation({
    mutationFn: () =>
      read(api.POST('/api/v1/links/{id}/copy', { params: { path: { id: link.id } }, body: {} })),
    onSuccess: async (made) => {
      await linksChanged(queries)
      await navigate({ to: '/links/$linkId', params: { linkId: made.id }, search: (s) => s })
      notifications.show({ message: `${addressOf(made.shortUrl)} created as a duplicate` })
    },
    onError: tellFailure,
  })
  return (
    <Group gap={8}>
      <Button
        leftSection={<IconCopy size={16} aria-hidden />}
        onClick={() => void copy('Address', link.shortUrl)}
      >
        Copy
      </Button>
      {mayChange && !link.deletedAt && (
        <Button variant="default" leftSection={<IconPencil size={16} aria-hidden />} onClick={onChange}>
          Change
        </Button>
      )}
      {!link.deletedAt && <CodeButton link={link.id} hasKey />}
      <Menu position="bottom-end">
        <Menu.Target>
          <ActionIcon variant="default" size={36} aria-label="More actions">
            <IconDots size={16} />
          </ActionIcon>
        </Menu.Target>
        <Menu.Dropdown>
          {!link.deletedAt && (
            <Menu.Item
              component="a"
              href={within(`/api/v1/links/${link.id}/open`)}
              target="_blank"
              rel="noreferrer"
              leftSection={<IconExternalLink size={16} aria-hidden />}
            >
              Open without counting
            </Menu.Item>
          )}
          {mayChange && (
            <Menu.Item
              leftSection={<IconCopyPlus size={16} aria-hidden />}
              onClick={() => duplicate.mutate()}
            >
              Duplicate
            </Menu.Item>
          )}
          {mayChange && !link.deletedAt && (
            <>
              <Menu.Item
                leftSection={
                  link.archivedAt ? (
                    <IconArchiveOff size={16} aria-hidden />
                  ) : (
                    <IconArchive size={16} aria-hidden />
                  )
                }
                onClick={() => archive.mutate(!link.archivedAt)}
              >
                {link.archivedAt ? 'Unarchive' : 'Archive'}
              </Menu.Item>
              <Menu.Item color="red" leftSection={<IconTrash size={16} aria-hidden />} onClick={onDelete}>
                Delete
              </Menu.Item>
            </>
          )}
        </Menu.Dropdown>
      </Menu>
    </Group>
  )
}
