import { ActionIcon, Menu } from '@mantine/core'
import { IconDownload } from '@tabler/icons-react'
import { fileAddress, type Asked } from './question'

interface Props {
  /** What is taken away. */
  name: string
  report: 'pivot' | 'life'
  asked: Asked
}

/** One table of a page as a file. */
export function TakeTable({ name, report, asked }: Props) {
  return (
    <Menu position="bottom-end" width={180}>
      <Menu.Target>
        <ActionIcon variant="subtle" aria-label={`Take away ${name}`} title={`Take away ${name}`}>
          <IconDownload size={16} aria-hidden />
        </ActionIcon>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Item component="a" href={fileAddress(`${report}.csv`, asked)} download>
          As CSV
        </Menu.Item>
        <Menu.Item component="a" href={fileAddress(`${report}.xlsx`, asked)} download>
          As Excel workbook
        </Menu.Item>
      </Menu.Dropdown>
    </Menu>
  )
}
