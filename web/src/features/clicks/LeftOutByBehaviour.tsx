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
        label="Leave out mail scanners and link checkers by what they do"
        description="They open every link of a message faster than anybody can click, ask for the headers first, or follow right behind your team’s own visit. Changing this affects clicks from now on."
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
