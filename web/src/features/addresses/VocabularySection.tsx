import { Button, Switch, Text, Title } from '@mantine/core'
import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, read, type Schema } from '../../api/client'
import { vocabulary } from '../../api/vocabulary'
import { count, counted, day } from '../../parts/format/numbers'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { useSession } from '../access/session'
import { AgreedValuesList } from './AgreedValuesList'

type Suspicion = Schema['TagSuspicionsResponse']

const all = { params: { query: { limit: 500 } } }
const suspicionsQuery = queryOptions({
  queryKey: ['tag-suspicions'],
  queryFn: () => read(api.GET('/api/v1/tag-suspicions')),
})
const mergesQuery = queryOptions({
  queryKey: ['tag-merges'],
  queryFn: () => read(api.GET('/api/v1/tag-merges', all)).then((page) => page.items),
})
/** One vocabulary: spellings that split a report, lists of agreed values, and the lock. */
export function VocabularySection() {
  const suspicions = useQuery(suspicionsQuery)
  const merges = useQuery(mergesQuery)
  const isOwner = useSession()?.role === 'owner'
  const failed = [suspicions, merges].find((q) => q.isError)
  if (failed) return <Failed error={failed.error} onRetry={() => void failed.refetch()} />
  if (!suspicions.data || !merges.data) return <Loading />
  return (
    <>
      <Title order={2} size={18} mb={4}>
        Possible duplicates
      </Title>
      {suspicions.data.length === 0 ? (
        <Text c="dimmed" mb="lg">
          No values look like different spellings of the same thing.
        </Text>
      ) : (
        <Sheet
          about="These values look alike, so their clicks may be split over two rows. Merging counts the first as the second, in past reports and in new links. Nothing recorded is changed, and you can undo a merge."
          columns={['Field', 'This', 'Clicks', 'Looks like', 'Clicks', '']}
        >
          {suspicions.data.map((pair) => (
            <SuspicionRow
              key={`${pair.field} ${pair.from.value} ${pair.into.value}`}
              pair={pair}
              mayMerge={isOwner}
            />
          ))}
        </Sheet>
      )}
      {merges.data.length > 0 && (
        <div style={{ marginTop: 24 }}>
          <Sheet about="Merged so far." columns={['Field', 'Replaced', 'Counts as', 'Links', 'Merged', '']}>
            {merges.data.map((merge) => (
              <MergeRow key={merge.id} merge={merge} mayUndo={isOwner} />
            ))}
          </Sheet>
        </div>
      )}
      <Title order={2} size={18} mt="xl" mb={4}>
        Allowed terms and contents
      </Title>
      <Text c="dimmed" mb="sm" maw={720}>
        Sources and mediums come from channels, and campaign values from campaigns. List the allowed terms and
        contents here; while a list is empty, any value is allowed.
      </Text>
      <AgreedValuesList field="content" label="Contents" mayChange={isOwner} />
      <AgreedValuesList field="term" label="Terms" mayChange={isOwner} />
      {isOwner && <Lock />}
    </>
  )
}

function useRefresh() {
  const queries = useQueryClient()
  return () =>
    Promise.all(
      [['tag-suspicions'], ['tag-merges'], ['links'], ['breakdown'], ['series']].map((queryKey) =>
        queries.invalidateQueries({ queryKey }),
      ),
    )
}

function SuspicionRow({ pair, mayMerge }: { pair: Suspicion; mayMerge: boolean }) {
  const refresh = useRefresh()
  const merge = useMutation({
    mutationFn: (way: { from: string; into: string }) =>
      read(api.POST('/api/v1/tag-merges', { body: { field: pair.field, ...way } })),
    onSuccess: refresh,
  })
  const [from, into] = [pair.from.value, pair.into.value]
  return (
    <tr>
      <td>{pair.field}</td>
      <td>{from}</td>
      <td>{count(pair.from.clicks)}</td>
      <td>{into}</td>
      <td>{count(pair.into.clicks)}</td>
      <td style={{ textAlign: 'right' }}>
        {mayMerge && (
          <>
            <Button
              size="compact-sm"
              variant="default"
              loading={merge.isPending}
              aria-label={`Count ${from} as ${into}`}
              onClick={() => merge.mutate({ from, into })}
            >
              Count as {into}
            </Button>{' '}
            <Button
              size="compact-sm"
              variant="subtle"
              aria-label={`Count ${into} as ${from}`}
              onClick={() => merge.mutate({ from: into, into: from })}
            >
              Swap
            </Button>
          </>
        )}
        {merge.isError && <div role="alert">{merge.error.message}</div>}
      </td>
    </tr>
  )
}

function MergeRow({ merge, mayUndo }: { merge: Schema['TagMergesResponse']; mayUndo: boolean }) {
  const refresh = useRefresh()
  const undo = useMutation({
    mutationFn: () => read(api.DELETE('/api/v1/tag-merges/{id}', { params: { path: { id: merge.id } } })),
    onSuccess: refresh,
  })
  return (
    <tr>
      <td>{merge.field}</td>
      <td>{merge.from}</td>
      <td>{merge.into}</td>
      <td>{counted(merge.links, 'link')}</td>
      <td>
        {day(merge.mergedAt.slice(0, 10))}
        {merge.mergedBy && ` by ${merge.mergedBy}`}
      </td>
      <td style={{ textAlign: 'right' }}>
        {mayUndo && (
          <Button
            size="compact-sm"
            variant="subtle"
            loading={undo.isPending}
            aria-label={`Undo counting ${merge.from} as ${merge.into}`}
            onClick={() => undo.mutate()}
          >
            Undo
          </Button>
        )}
      </td>
    </tr>
  )
}

function Lock() {
  const workspace = useQuery(vocabulary.workspace)
  const queries = useQueryClient()
  const change = useMutation({
    mutationFn: (isVocabularyLocked: boolean) =>
      read(api.PATCH('/api/v1/workspace', { body: { isVocabularyLocked } })),
    onSuccess: (changed) => queries.setQueryData(['workspace'], changed),
  })
  if (!workspace.data) return null
  return (
    <Switch
      mt="xl"
      label="Lock the vocabulary: editors can use only the listed values and campaigns"
      checked={workspace.data.isVocabularyLocked}
      onChange={(event) => change.mutate(event.currentTarget.checked)}
      error={change.error?.message}
    />
  )
}
