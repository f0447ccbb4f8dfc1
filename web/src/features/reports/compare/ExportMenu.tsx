import { Button, Menu } from '@mantine/core'
import { IconDownload } from '@tabler/icons-react'
import { FileItems } from './FileItems'
import { fileAddress, type Asked, type ReportFile } from '../question/question'

type Named = ReadonlyArray<readonly [file: ReportFile, words: string]>

const map: Named = [
  ['map.svg', 'Map as SVG'],
  ['map.png', 'Map as PNG'],
]

const filesOf = ({ by }: Asked): ReadonlyArray<readonly [group: string, items: Named]> => [
  ['Full report', [['page.pdf', 'One page as PDF']]],
  [
    'Charts',
    [
      ['lanes.svg', 'Lanes as SVG'],
      ['lanes.png', 'Lanes as PNG'],
      ['course.svg', 'Course as SVG'],
      ['course.png', 'Course as PNG'],
      ...(by === 'country' ? map : []),
    ],
  ],
  [
    'Table',
    [
      ['breakdown.csv', 'Table as CSV'],
      ['breakdown.xlsx', 'Table as Excel workbook'],
    ],
  ],
]

const clicks: Named = [
  ['clicks.csv', 'Individual clicks as CSV'],
  ['clicks.ndjson', 'Individual clicks as NDJSON'],
]

/** The answer as files: for a letter, for slides, for reckoning elsewhere. */
export function ExportMenu({ asked, title }: { asked: Asked; title?: string }) {
  const named = title ? { ...asked, title } : asked // Only the page has a title, others pass it over.
  const addressed = (items: Named) => items.map(([file, words]) => [fileAddress(file, named), words] as const)
  return (
    <Menu position="bottom-end" width={240}>
      <Menu.Target>
        <Button variant="subtle" size="compact-sm" leftSection={<IconDownload size={15} aria-hidden />}>
          Export
        </Button>
      </Menu.Target>
      <Menu.Dropdown>
        {filesOf(asked).map(([group, items]) => (
          <div key={group}>
            <Menu.Label>{group}</Menu.Label>
            <FileItems files={addressed(items)} />
          </div>
        ))}
        <Menu.Label>Underlying data</Menu.Label>
        <FileItems files={addressed(clicks)} areLarge />
      </Menu.Dropdown>
    </Menu>
  )
}
