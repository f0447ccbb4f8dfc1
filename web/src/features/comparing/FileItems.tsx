import { Menu } from '@mantine/core'
import { fileAddress, type Asked, type ReportFile } from './question'

/** Files with what people call them. */
export type Files = ReadonlyArray<readonly [file: ReportFile, words: string]>

/** Files of an answer as lines of a menu. */
export const FileItems = ({ files, asked }: { files: Files; asked: Asked }) =>
  files.map(([file, words]) => (
    <Menu.Item key={file} component="a" href={fileAddress(file, asked)} download>
      {words}
    </Menu.Item>
  ))
