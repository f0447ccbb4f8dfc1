import { Switch, Text } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, read, wordsOf } from '../../api/client'
import { vocabulary } from '../../api/vocabulary'

/** Whether clicks are left out for what visitors do. What came before stays as it was counted. */
export function LeftOutByBehaviour({ mayChange }: { mayChange: boolean }) {
  const workspace = useQuery(vocabulary.workspace)
  const queries = useQueryClient()
  const save = useMutation({
    mutationFn: (leavesOutByBehaviour: boolean) =>
      read(api.PATCH('/api/v1/workspace', { body: { leavesOutByBehaviour } })),
    onSuccess: (changed) => queries.setQueryData(['workspace'], changed),
  })
  if (!workspace.data) return null
  return (
    <>
      <Switch
        mt="md"
        maw={640}
        label="Filter out mail scanners and link checkers by behaviour"
        description="They open every link in a message faster than a person could, request only headers first, or follow right behind a visit from your team. Applies to new clicks."
        checked={save.isPending ? save.variables : workspace.data.leavesOutByBehaviour}
        disabled={!mayChange}
        onChange={(event) => save.mutate(event.currentTarget.checked)}
      />
      {save.error && (
        <Text size="sm" c="var(--bad)" role="alert">
          {wordsOf(save.error)}
        </Text>
      )}
    </>
  )
}
