import { useDebouncedValue } from '@mantine/hooks'
import { useQuery } from '@tanstack/react-query'
import { api, read, type Schema } from '../../../api/client'

export type Look = Schema['LookAtDestinationResponse']

/** Looks at the page behind the destination, in the background; sending never waits for it. */
export function useLook(destination: string, isAddress: boolean) {
  const [settled] = useDebouncedValue(destination.trim(), 400)
  return useQuery({
    queryKey: ['look', settled],
    queryFn: () => read(api.GET('/api/v1/destinations/look', { params: { query: { address: settled } } })),
    enabled: isAddress && settled !== '' && settled === destination.trim(),
    staleTime: 60_000,
    retry: false,
  })
}
