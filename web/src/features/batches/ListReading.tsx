import { Alert, Button, Group, SegmentedControl, Stack, Text } from '@mantine/core'
import { useDebouncedValue, useHotkeys } from '@mantine/hooks'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { wordsOf } from '../../api/client'
import type { Domain } from '../../api/vocabulary'
import { count, counted } from '../../parts/format/numbers'
import { useSession } from '../access/session'
import classes from './Batch.module.css'
import {
  batchQuery,
  cancelBatch,
  previewQuery,
  runBatch,
  type Batch,
  type BatchRequest,
  type Choices,
  type ListField,
  type Preview,
} from './batches'
import { ColumnsTable } from './ColumnsTable'
import { ForAllFields } from './ForAllFields'
import { LineRemarks } from './LineRemarks'
import { ListChoices } from './ListChoices'
import { ListVocabulary } from './ListVocabulary'
import { MadeRows } from './MadeRows'
import { NewCampaigns } from './NewCampaigns'
import { Outcomes } from './Outcomes'

interface Props {
  batch: Batch
  domains: Domain[]
  onDiscarded: () => void
}

/** A list before its links are made: what its columns say, what holds for all, and what would come of it. */
export function ListReading({ batch, domains, onDiscarded }: Props) {
  const [columns, setColumns] = useState<Array<ListField | null>>(() => batch.columns.map((c) => c.field))
  const [forAll, setForAll] = useState<NonNullable<BatchRequest['forAll']>>({ slugKind: 'random' })
  const [choices, setChoices] = useState<Choices>(() => batch.choices ?? {})
  const [isGoodOnly, setIsGoodOnly] = useState(false)
  const [settled] = useDebouncedValue({ columns, forAll, choices, isGoodOnly: false }, 200)
  const preview = useQuery(previewQuery(batch.id, settled))
  const queries = useQueryClient()
  const isOwner = useSession()?.role === 'owner'
  const run = useMutation({
    mutationFn: () => runBatch(batch.id, { columns, forAll, choices, isGoodOnly }),
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

  // What was seen last stays while the server can't be asked, so that nobody loses sight of what is being chosen.
  const [found, setFound] = useState(preview.data)
  if (preview.data && preview.data !== found) setFound(preview.data)
  const bad = found ? found.lines - found.goodLines : 0
  const isReady =
    found !== undefined && !preview.isError && found.links + found.takenOver > 0 && (bad === 0 || isGoodOnly)
  const make = () => isReady && !run.isPending && run.mutate()
  useHotkeys([['mod+Enter', make]], [])
  const wrong = Object.values(found?.errors ?? {}).flat()

  return (
    <>
      <Text c="dimmed" mb={14}>
        {batch.name} · {counted(batch.lines, 'line')}
        {batch.remark && ` · ${batch.remark}`}
        {batch.choices && ' · Using the settings of the last list with these columns'}
      </Text>
      <div className={classes.reading}>
        <section aria-labelledby="what-columns-say">
          <h2 id="what-columns-say">Column mapping</h2>
          <ColumnsTable batch={batch} columns={columns} onChange={setColumns} />
          {found && wrong.length === 0 && (
            <>
              <Outcomes batch={batch} preview={found} request={settled} />
              <NewCampaigns names={found.newCampaigns} />
              {isOwner && <ListVocabulary batch={batch.id} columns={settled.columns} />}
              <LineRemarks
                title={`${counted(bad, 'line')} can’t be used as they are`}
                remarks={found.problems}
                isBad
              />
              <LineRemarks title="Possible mistakes" remarks={found.hints} />
            </>
          )}
        </section>
        <Stack gap={24}>
          <ListChoices
            choices={choices}
            columns={columns}
            domains={domains}
            preview={found}
            onChange={setChoices}
          />
          <section aria-labelledby="for-all-lines">
            <h2 id="for-all-lines">Defaults for lines without their own value</h2>
            <ForAllFields forAll={forAll} columns={columns} domains={domains} onChange={setForAll} />
          </section>
        </Stack>
      </div>

      {(preview.error ?? run.error) && (
        <Alert
          role="alert"
          variant="default"
          mt="md"
          title={run.error ? 'No links were created' : 'No preview'}
        >
          {wordsOf((run.error ?? preview.error)!)}
          {preview.error && (
            <Button
              variant="default"
              size="compact-sm"
              ml={12}
              loading={preview.isFetching}
              onClick={() => void preview.refetch()}
            >
              Try again
            </Button>
          )}
        </Alert>
      )}
      {batch.failure && !run.error && (
        <Alert role="status" variant="default" mt="md" title="Can’t create it yet">
          {batch.failure}
        </Alert>
      )}
      {wrong.length > 0 && (
        <Alert role="status" variant="default" mt="md" title="One more thing">
          {wrong.join(' ')}
        </Alert>
      )}
      {found && wrong.length === 0 && (
        <>
          <MadeRows rows={found.rows} links={found.links + found.takenOver} />
        </>
      )}

      <div className={classes.bar}>
        <Group gap={10}>
          {bad > 0 && found!.goodLines > 0 && (
            <SegmentedControl
              aria-label="Lines that can’t be used"
              data={[
                { value: 'all', label: 'All or none' },
                { value: 'good', label: 'Only the valid lines' },
              ]}
              value={isGoodOnly ? 'good' : 'all'}
              onChange={(value) => setIsGoodOnly(value === 'good')}
            />
          )}
          {bad > 0 && !isGoodOnly && (
            <Text size="sm" c="dimmed">
              Correct {bad === 1 ? 'that line' : `those ${count(bad)} lines`} and upload the list again, or
              skip them.
            </Text>
          )}
        </Group>
        <Group gap={12}>
          <Button variant="default" size="md" loading={discard.isPending} onClick={() => discard.mutate()}>
            Discard
          </Button>
          <Button size="md" disabled={!isReady} loading={run.isPending} onClick={make}>
            {isReady || found === undefined || found.links + found.takenOver === 0
              ? making(found)
              : `Create links from all ${counted(batch.lines, 'line')}`}
          </Button>
        </Group>
      </div>
    </>
  )
}

/** What the button does. */
function making(found: Preview | undefined) {
  const { links, takenOver } = found ?? { links: 0, takenOver: 0 }
  if (takenOver === 0) return `Create ${counted(links, 'link')}`
  return links === 0
    ? `Update ${counted(takenOver, 'link')}`
    : `Create ${counted(links, 'link')}, update ${count(takenOver)}`
}
