import { Button, Progress, Text } from '@mantine/core'
import { useMutation } from '@tanstack/react-query'
import { count, counted } from '../../parts/format/numbers'
import classes from './Batch.module.css'
import { cancelBatch, type Batch } from './batches'

/** How far the making of a batch is, and a way to stop it. */
export function BatchProgress({ batch }: { batch: Batch }) {
  const cancel = useMutation({ mutationFn: () => cancelBatch(batch.id) })
  const { done, total } = batch.progress ?? { done: 0, total: 0 }
  const isWritten = total > 0 && done >= total
  return (
    <section aria-label="Progress" className={classes.progress}>
      <Text size="lg" role="status">
        {isWritten ? 'Finishing…' : `Creating ${counted(total, 'link')} from ${batch.name}`}
      </Text>
      <Progress
        size="lg"
        my={12}
        value={total > 0 ? (100 * done) / total : 0}
        animated={isWritten}
        aria-label="Links created"
      />
      <Text size="sm" c="dimmed">
        {count(done)} of {count(total)} created. Nothing is saved until all of them are.
      </Text>
      <Button variant="default" mt={16} loading={cancel.isPending} onClick={() => cancel.mutate()}>
        Cancel
      </Button>
    </section>
  )
}
