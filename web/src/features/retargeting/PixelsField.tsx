import { MultiSelect, type MultiSelectProps } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { pixelsQuery } from './pixels'

/** Chooses retargeting pixels by name; holds their ids. */
export function PixelsField(props: MultiSelectProps) {
  const pixels = useQuery(pixelsQuery)
  const none = pixels.data?.length === 0
  return (
    <MultiSelect
      label="Pixels"
      searchable
      hidePickedOptions
      selectFirstOptionOnChange
      data={pixels.data?.map((p) => ({ value: p.id, label: p.name })) ?? []}
      disabled={none}
      {...props}
      placeholder={
        none ? 'none yet; add one in Audiences' : props.value?.length ? '' : (props.placeholder ?? '+ pixel')
      }
    />
  )
}
