import { Button, Group, Text, Title } from '@mantine/core'
import { notifications } from '@mantine/notifications'
import { IconDownload } from '@tabler/icons-react'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useEffect, useState } from 'react'
import { api, read, wordsOf } from '../../api/client'
import { counted } from '../../parts/format/numbers'
import { takeFile } from '../../parts/files/takeFile'
import classes from './Batch.module.css'
import type { Batch } from './batches'

const undoWithin = 10 * 60 * 1000

/** What came of a list: its links, to be taken along or looked at. */
export function BatchResult({ batch, onUndone }: { batch: Batch; onUndone: () => void }) {
  const queries = useQueryClient()
  const canUndo = useStillWithin(batch.doneAt, undoWithin)
  useEffect(() => {
    for (const queryKey of [['links'], ['tags'], ['folders'], ['find']])
      void queries.invalidateQueries({ queryKey })
    void queries.invalidateQueries({ queryKey: ['batches'], exact: true })
  }, [batch.id, queries])
  const undo = useMutation({
    mutationFn: () => read(api.POST('/api/v1/batches/{id}/undo', { params: { path: { id: batch.id } } })),
    onSuccess: async () => {
      onUndone()
      queries.removeQueries({ queryKey: ['batches', batch.id] })
      for (const queryKey of [['links'], ['folders'], ['find'], ['batches']])
        await queries.invalidateQueries({ queryKey })
      notifications.show({
        message: `${counted(batch.links + batch.takenOver, 'link')} undone`,
        autoClose: 3000,
      })
    },
  })
  return (
    <section aria-label="Result" className={classes.progress}>
      <Title order={2} size={22}>
        {(batch.links > 0 || batch.takenOver === 0) && `${counted(batch.links, 'link')} created`}
        {batch.links > 0 && batch.takenOver > 0 && ', '}
        {batch.takenOver > 0 && `${counted(batch.takenOver, 'link')} updated`}
      </Title>
      <Text c="dimmed" mt={4}>
        From {batch.name}.{' '}
        {batch.leftOut > 0 &&
          `${counted(batch.leftOut, 'line was', 'lines were')} skipped. The file below gives the reason for each.`}
      </Text>
      <Group mt={20} gap={12}>
        <Button
          component="a"
          {...takeFile(`/api/v1/batches/${batch.id}/result.csv`)}
          leftSection={<IconDownload size={18} aria-hidden />}
        >
          Download as CSV
        </Button>
        <Button
          variant="default"
          renderRoot={(props) => <Link to="/links" search={{ batch: batch.id }} {...props} />}
        >
          View these links
        </Button>
        {canUndo && (
          <Button variant="subtle" loading={undo.isPending} onClick={() => undo.mutate()}>
            Undo
          </Button>
        )}
      </Group>
      {undo.error && (
        <Text mt={12} c="var(--bad)" role="alert">
          {wordsOf(undo.error)}
        </Text>
      )}
    </section>
  )
}

/** Whether less than so many milliseconds have passed; turns false by itself. */
function useStillWithin(since: string | null, milliseconds: number) {
  const [isWithin, setIsWithin] = useState(false)
  useEffect(() => {
    const left = since === null ? 0 : new Date(since).getTime() + milliseconds - Date.now()
    const turn = setTimeout(() => setIsWithin(left > 0), 0)
    const end = setTimeout(() => setIsWithin(false), Math.max(0, left))
    return () => {
      clearTimeout(turn)
      clearTimeout(end)
    }
  }, [since, milliseconds])
  return isWithin
}
