import { Alert, Button, Group, Select, Text, Title } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read, wordsOf } from '../../api/client'
import { vocabulary } from '../../api/vocabulary'
import { day } from '../../parts/format/numbers'

const choices = [
  { value: '0', label: 'Forever' },
  { value: '38', label: '38 months' },
  { value: '26', label: '26 months' },
  { value: '14', label: '14 months' },
]

/** For how long single clicks are kept. Shortening it deletes clicks, so that it asks first. */
export function KeptClicks({ mayChange }: { mayChange: boolean }) {
  const workspace = useQuery(vocabulary.workspace)
  const queries = useQueryClient()
  const [asked, setAsked] = useState<number>()
  const save = useMutation({
    mutationFn: (clicksKeptMonths: number) =>
      read(api.PATCH('/api/v1/workspace', { body: { clicksKeptMonths } })),
    onSuccess: (changed) => queries.setQueryData(['workspace'], changed),
    onSettled: () => setAsked(undefined),
  })
  if (!workspace.data) return null
  const { clicksKeptMonths: months, clicksKeptFrom } = workspace.data
  const choose = (chosen: number) => {
    if (chosen === months) return
    const isShorter = chosen > 0 && (months === 0 || chosen < months)
    if (isShorter) setAsked(chosen)
    else save.mutate(chosen)
  }
  return (
    <>
      <Title order={2} size={18} mt="xl" mb={4}>
        How long clicks are kept
      </Title>
      <Select
        maw={480}
        label="Keep individual clicks"
        description={
          'Daily totals are kept forever, so reports still add up. Some answers need individual clicks and go back only as far as they do: two click details combined, clicks of each version of a link, and click exports.' +
          (clicksKeptFrom ? ` Individual clicks go back to ${day(clicksKeptFrom)}.` : '')
        }
        data={choices}
        value={`${asked ?? (save.isPending ? save.variables : months)}`}
        allowDeselect={false}
        disabled={!mayChange}
        onChange={(value) => value !== null && choose(Number(value))}
        error={save.error && wordsOf(save.error)}
      />
      {asked !== undefined && (
        <Alert
          mt="md"
          maw={640}
          role="alertdialog"
          variant="default"
          title={`Delete individual clicks older than ${asked} months?`}
        >
          <Text size="sm">
            They are deleted within the hour, and every month from now on. This can’t be undone: export an
            archive first if you may need them. Daily totals are kept.
          </Text>
          <Group mt="sm" mb={4} gap={8}>
            <Button color="red" loading={save.isPending} onClick={() => save.mutate(asked)}>
              Delete older clicks
            </Button>
            <Button variant="default" autoFocus onClick={() => setAsked(undefined)}>
              Keep them
            </Button>
          </Group>
        </Alert>
      )}
    </>
  )
}
