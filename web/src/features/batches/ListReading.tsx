import { Alert, Button, Group, SegmentedControl, Text } from '@mantine/core'
import { useDebouncedValue, useHotkeys } from '@mantine/hooks'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { wordsOf } from '../../api/client'
import type { Domain } from '../../api/vocabulary'
import { count, counted } from '../../parts/numbers'
import classes from './Batch.module.css'
import {
  batchQuery,
  cancelBatch,
  previewQuery,
  runBatch,
  type Batch,
  type BatchRequest,
  type ListField,
} from './batches'
import { ColumnsTable } from './ColumnsTable'
import { ForAllFields } from './ForAllFields'
import { LineRemarks } from './LineRemarks'
import { MadeRows } from './MadeRows'
import { NewCampaigns } from './NewCampaigns'

interface Props {
  batch: Batch
  domains: Domain[]
  onDiscarded: () => void
}

/** A list before its links are made: what its columns say, what holds for all, and what would come of it. */
export function ListReading({ batch, domains, onDiscarded }: Props) {
  const [columns, setColumns] = useState<Array<ListField | null>>(() => batch.columns.map((c) => c.field))
  const [forAll, setForAll] = useState<NonNullable<BatchRequest['forAll']>>({ slugKind: 'random' })
  const [isGoodOnly, setIsGoodOnly] = useState(false)
  const [settled] = useDebouncedValue({ columns, forAll, isGoodOnly: false }, 200)
  const preview = useQuery(previewQuery(batch.id, settled))
  const queries = useQueryClient()
  const run = useMutation({
    mutationFn: () => runBatch(batch.id, { columns, forAll, isGoodOnly }),
    onSuccess: (running) => queries.setQueryData(batchQuery(batch.id).queryKey, running),
    onError: () => void preview.refetch(),
  })
  const discard = useMutation({
    mutationFn: () => cancelBatch(batch.id),
    onSuccess: async () => {
      onDiscarded()
      queries.removeQueries({ queryKey: ['batches', batch.id] })
      await queries.invalidateQueries({ queryKey: ['batches'], exact: true })
    },
  })

  const found = preview.data
  const bad = found ? found.lines - found.goodLines : 0
  const isReady = found !== undefined && found.links > 0 && (bad === 0 || isGoodOnly)
  const make = () => isReady && !run.isPending && run.mutate()
  useHotkeys([['mod+Enter', make]], [])
  const wrong = Object.values(found?.errors ?? {}).flat()

  return (
    <>
      <Text c="dimmed" mb={14}>
        {batch.name} · {counted(batch.lines, 'line')}
        {batch.remark && ` · ${batch.remark}`}
      </Text>
      <div className={classes.reading}>
        <section aria-labelledby="what-columns-say">
          <h2 id="what-columns-say">What the columns say</h2>
          <ColumnsTable batch={batch} columns={columns} onChange={setColumns} />
          {found && wrong.length === 0 && (
            <>
              <NewCampaigns names={found.newCampaigns} />
              <LineRemarks
                title={`${counted(bad, 'line')} can’t be made as they are`}
                remarks={found.problems}
                isBad
              />
              <LineRemarks title="Perhaps a slip" remarks={found.hints} />
            </>
          )}
        </section>
        <section aria-labelledby="for-all-lines">
          <h2 id="for-all-lines">For lines that don’t say it themselves</h2>
          <ForAllFields forAll={forAll} columns={columns} domains={domains} onChange={setForAll} />
        </section>
      </div>

      {(preview.error ?? run.error) && (
        <Alert role="alert" variant="default" mt="md" title={run.error ? 'No link was made' : 'No preview'}>
          {wordsOf((run.error ?? preview.error)!)}
        </Alert>
      )}
      {batch.failure && !run.error && (
        <Alert role="status" variant="default" mt="md" title="Not made yet">
          {batch.failure}
        </Alert>
      )}
      {wrong.length > 0 && (
        <Alert role="status" variant="default" mt="md" title="One more thing is needed">
          {wrong.join(' ')}
        </Alert>
      )}
      {found && wrong.length === 0 && <MadeRows rows={found.rows} links={found.links} />}

      <div className={classes.bar}>
        <Group gap={10}>
          {bad > 0 && found!.goodLines > 0 && (
            <SegmentedControl
              aria-label="Lines that can’t be made"
              data={[
                { value: 'all', label: 'All or none' },
                { value: 'good', label: 'The good lines alone' },
              ]}
              value={isGoodOnly ? 'good' : 'all'}
              onChange={(value) => setIsGoodOnly(value === 'good')}
            />
          )}
          {bad > 0 && !isGoodOnly && (
            <Text size="sm" c="dimmed">
              Correct {bad === 1 ? 'that line' : `those ${count(bad)} lines`} and drop the list again, or
              leave them out.
            </Text>
          )}
        </Group>
        <Group gap={12}>
          <Button variant="default" size="md" loading={discard.isPending} onClick={() => discard.mutate()}>
            Discard
          </Button>
          <Button size="md" disabled={!isReady} loading={run.isPending} onClick={make}>
            {isReady || found === undefined || found.links === 0
              ? `Make ${counted(found?.links ?? 0, 'link')}`
              : `Make all ${counted(batch.lines, 'line')}`}
          </Button>
        </Group>
      </div>
    </>
  )
}
