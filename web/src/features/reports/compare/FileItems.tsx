import { Menu } from '@mantine/core'
import { within } from '../../../api/address'
import { takeFile } from '../../../parts/files/takeFile'

/** Addresses of files with what people call them. */
export type Files = ReadonlyArray<readonly [address: string, words: string]>

interface Props {
  files: Files
  /** True for files of any size, which are left to the browser: it writes as it reads. */
  areLarge?: boolean
}

/** Files as lines of a menu. */
export const FileItems = ({ files, areLarge }: Props) =>
  files.map(([address, words]) => (
    <Menu.Item
      key={address}
      component="a"
      {...(areLarge ? { href: within(address), download: true } : takeFile(address))}
    >
      {words}
    </Menu.Item>
  ))
