import { Menu } from '@mantine/core'
import { takeFile } from '../../parts/takeFile'

/** Addresses of files with what people call them. */
export type Files = ReadonlyArray<readonly [address: string, words: string]>

/** Files as lines of a menu. */
export const FileItems = ({ files }: { files: Files }) =>
  files.map(([address, words]) => (
    <Menu.Item key={address} component="a" {...takeFile(address)}>
      {words}
    </Menu.Item>
  ))

/** Files of any size, which the browser writes as it reads them. */
export const LargeFileItems = ({ files }: { files: Files }) =>
  files.map(([address, words]) => (
    <Menu.Item key={address} component="a" href={address} download>
      {words}
    </Menu.Item>
  ))
