import { Select, type SelectProps } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { vocabulary } from '../api/vocabulary'

/** Chooses a folder by name; nothing is shown where the workspace has none. */
export function FolderField(props: SelectProps) {
  const { data: folders } = useQuery(vocabulary.folders)
  if (!folders?.length) return null
  return <Select label="Folder" clearable placeholder="none" data={folders.map((f) => f.name)} {...props} />
}
