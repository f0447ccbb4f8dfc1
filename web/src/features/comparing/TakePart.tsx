import { ActionIcon, Menu } from '@mantine/core'
import { IconDownload } from '@tabler/icons-react'
import { FileItems, type Files } from './FileItems'
import type { Asked } from './question'

interface Props {
  /** What is taken away. */
  name: string
  table: 'pivot' | 'life' | 'breakdown'
  picture: 'pivot' | 'life' | 'map'
  asked: Asked
}

/** One part of a page as a file: its table, or what is drawn of it. */
export function TakePart({ name, table, picture, asked }: Props) {
  const files: Files = [
    [`${picture}.svg`, 'As SVG'],
    [`${picture}.png`, 'As PNG'],
    [`${table}.csv`, 'As CSV'],
    [`${table}.xlsx`, 'As Excel workbook'],
  ]
  return (
    <Menu position="bottom-end" width={180}>
      <Menu.Target>
        <ActionIcon variant="subtle" aria-label={`Take away ${name}`} title={`Take away ${name}`}>
          <IconDownload size={16} aria-hidden />
        </ActionIcon>
      </Menu.Target>
      <Menu.Dropdown>
        <FileItems files={files} asked={asked} />
      </Menu.Dropdown>
    </Menu>
  )
}
