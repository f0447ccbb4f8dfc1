import { Button, Menu } from '@mantine/core'
import { notifications } from '@mantine/notifications'
import { IconDownload } from '@tabler/icons-react'
import { useMutation } from '@tanstack/react-query'
import { api, read, wordsOf } from '../../api/client'
import { saveFile } from '../../parts/files/saveFile'
import type { Selection } from './links'

const formats = { csv: 'CSV', xlsx: 'Spreadsheet', ndjson: 'JSON Lines' } as const

/** Takes the links away as a file. */
export function ExportLinks({ links }: { links: Selection }) {
  const take = useMutation({
    mutationFn: async (format: keyof typeof formats) =>
      saveFile(
        await read(api.POST('/api/v1/links/files', { body: { links, format }, parseAs: 'blob' })),
        `links.${format}`,
      ),
    onError: (error) => notifications.show({ color: 'red', message: wordsOf(error) }),
  })
  return (
    <Menu position="top">
      <Menu.Target>
        <Button
          size="sm"
          variant="default"
          loading={take.isPending}
          leftSection={<IconDownload size={16} aria-hidden />}
        >
          Export
        </Button>
      </Menu.Target>
      <Menu.Dropdown>
        {Object.entries(formats).map(([format, label]) => (
          <Menu.Item key={format} onClick={() => take.mutate(format as keyof typeof formats)}>
            {label}
          </Menu.Item>
        ))}
      </Menu.Dropdown>
    </Menu>
  )
}
