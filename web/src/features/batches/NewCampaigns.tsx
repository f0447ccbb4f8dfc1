import { Button, Group, Text } from '@mantine/core'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, read, wordsOf } from '../../api/client'
import { counted } from '../../parts/format/numbers'
import classes from './Batch.module.css'

/** Campaigns that the list names and nobody has added yet, to be added in one go. */
export function NewCampaigns({ names }: { names: string[] }) {
  const queries = useQueryClient()
  const add = useMutation({
    mutationFn: async () => {
      for (const name of names) await read(api.POST('/api/v1/campaigns', { body: { name, evenSo: false } }))
    },
    onSettled: async () => {
      await queries.invalidateQueries({ queryKey: ['campaigns'] })
      await queries.invalidateQueries({ queryKey: ['batches'] })
    },
  })
  if (names.length === 0) return null
  return (
    <section aria-label="New campaigns" className={classes.remarks}>
      <Group justify="space-between" gap={12}>
        <Text>
          {counted(names.length, 'campaign')} of this list {names.length === 1 ? 'is' : 'are'} new here:{' '}
          <b>{names.slice(0, 8).join(', ')}</b>
          {names.length > 8 && ' and more'}
        </Text>
        <Button variant="default" loading={add.isPending} onClick={() => add.mutate()}>
          {names.length === 1 ? 'Add it' : 'Add them'}
        </Button>
      </Group>
      {add.error && (
        <Text size="sm" c="var(--bad)" role="alert">
          {wordsOf(add.error)}
        </Text>
      )}
    </section>
  )
}
