import { useQuery } from '@tanstack/react-query'
import type { ComponentType, ReactNode } from 'react'
import { fetchCode } from '../api/code'
import { Failed, Loading } from './States'

/**
 * A view or a part of one whose code is fetched when it is first shown. Where that fails, it says so in its own place and whatever stands around
 * it stays, with all that was typed there; a thrown error, or a reload of the page, would take both away.
 *
 * @param name Told apart by it from all others.
 * @param waiting Shown meanwhile.
 */
export function later<Props extends object>(
  name: string,
  load: () => Promise<ComponentType<Props>>,
  waiting: ReactNode = <Loading />,
) {
  let part: ComponentType<Props> | undefined
  const fetchPart = async () => (part = await fetchCode(load))

  function Later(props: Props) {
    const code = useQuery({
      queryKey: ['code', name],
      queryFn: fetchPart,
      initialData: () => part,
      staleTime: Infinity,
      structuralSharing: false,
      retry: false,
    })
    if (code.isError) return <Failed error={code.error} onRetry={() => void code.refetch()} />
    if (!code.data) return waiting
    const Part = code.data
    return <Part {...props} />
  }

  /** Fetches the code before it is needed; what goes wrong is told when it is. */
  Later.preload = () =>
    fetchPart().then(
      () => undefined,
      () => undefined,
    )
  return Later
}
