import { ActionIcon, Menu } from '@mantine/core'
import { IconDownload } from '@tabler/icons-react'
import { FileItems } from './FileItems'

interface Props {
  /** What is taken away. */
  name: string
  /** Where its file of an ending is. */
  addressOf: (ending: 'svg' | 'png' | 'csv' | 'xlsx') => string
}

/** One part of a page as a file: what is drawn of it, or its table. */
export const TakePart = ({ name, addressOf }: Props) => (
  <Menu position="bottom-end" width={180}>
    <Menu.Target>
      <ActionIcon variant="subtle" aria-label={`Take away ${name}`} title={`Take away ${name}`}>
        <IconDownload size={16} aria-hidden />
      </ActionIcon>
    </Menu.Target>
    <Menu.Dropdown>
      <FileItems
        files={[
          [addressOf('svg'), 'As SVG'],
          [addressOf('png'), 'As PNG'],
          [addressOf('csv'), 'As CSV'],
          [addressOf('xlsx'), 'As Excel workbook'],
        ]}
      />
    </Menu.Dropdown>
  </Menu>
)
