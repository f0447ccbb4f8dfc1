import { Select } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { vocabulary } from '../../../api/vocabulary'

interface Props {
  label: string
  value: string | null
  onChange: (id: string | null) => void
}

/** Chooses one of the saved routes; nothing where there are none. */
export function SavedRouteField({ label, value, onChange }: Props) {
  const routes = useQuery(vocabulary.routes)
  if (!routes.data?.length) return null
  return (
    <Select
      size="sm"
      mb={8}
      label={label}
      clearable
      searchable
      placeholder="none"
      data={routes.data.map((route) => ({ value: route.id, label: route.name }))}
      value={value}
      onChange={onChange}
    />
  )
}
