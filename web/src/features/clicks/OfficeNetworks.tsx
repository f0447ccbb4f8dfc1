import { Button, Group, Textarea, Title } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read, wordsOf } from '../../api/client'
import { vocabulary } from '../../api/vocabulary'

/** Networks whose visitors are the team's own: one a line. */
export function OfficeNetworks({ mayChange }: { mayChange: boolean }) {
  const workspace = useQuery(vocabulary.workspace)
  const queries = useQueryClient()
  const [typed, setTyped] = useState<string>()
  const save = useMutation({
    mutationFn: (text: string) =>
      read(
        api.PATCH('/api/v1/workspace', {
          body: { officeNetworks: text.split('\n').filter((l) => l.trim()) },
        }),
      ),
    onSuccess: (changed) => {
      queries.setQueryData(['workspace'], changed)
      setTyped(undefined)
    },
  })
  if (!workspace.data) return null
  const saved = workspace.data.officeNetworks.join('\n')
  return (
    <>
      <Title order={2} size={18} mt="xl" mb={4}>
        Visits that don’t count
      </Title>
      <Textarea
        maw={480}
        autosize
        minRows={2}
        label="Office networks"
        description="Visits from these addresses count as your team’s. One address or network per line. Browsers that have signed in are recognised anyway."
        placeholder={'198.51.100.7\n2001:db8:40::/48'}
        readOnly={!mayChange}
        value={typed ?? saved}
        onChange={(event) => setTyped(event.currentTarget.value)}
        error={save.error && wordsOf(save.error)}
      />
      {mayChange && typed !== undefined && typed !== saved && (
        <Group mt="sm" gap={8}>
          <Button loading={save.isPending} onClick={() => save.mutate(typed)}>
            Save networks
          </Button>
          <Button
            variant="default"
            onClick={() => {
              setTyped(undefined)
              save.reset()
            }}
          >
            Cancel
          </Button>
        </Group>
      )}
    </>
  )
}
