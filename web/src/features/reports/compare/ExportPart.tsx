import { ActionIcon, Menu } from '@mantine/core'
import { IconDownload } from '@tabler/icons-react'
import { FileItems } from './FileItems'

interface Props {
  /** What is taken away. */
  name: string
  /** Where its file of an ending is. */
  addressOf: (ending: Ending) => string
  /** The files that there are; all where left out. */
  endings?: readonly Ending[]
}

type Ending = keyof typeof words

const words = { svg: 'As SVG', png: 'As PNG', csv: 'As CSV', xlsx: 'As Excel workbook' }
const every = Object.keys(words) as Ending[]

/** One part of a page as a file: what is drawn of it, or its table. */
export const ExportPart = ({ name, addressOf, endings = every }: Props) => (
  <Menu position="bottom-end" width={180}>
    <Menu.Target>
      <ActionIcon variant="subtle" aria-label={`Export ${name}`} title={`Export ${name}`}>
        <IconDownload size={16} aria-hidden />
      </ActionIcon>
    </Menu.Target>
    <Menu.Dropdown>
      <FileItems files={endings.map((ending) => [addressOf(ending), words[ending]])} />
    </Menu.Dropdown>
  </Menu>
)
