import { useMutation, useQueryClient } from '@tanstack/react-query'

/** A change on the server, after which what stands under these keys is read again. */
export function useChangeOf<Variables = void, Data = unknown>(
  keys: readonly string[],
  change: (variables: Variables) => Promise<Data>,
) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: change,
    onSuccess: () => Promise.all(keys.map((key) => queries.invalidateQueries({ queryKey: [key] }))),
  })
}
