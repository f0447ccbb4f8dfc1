import { Button, Text } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, read } from '../../../api/client'
import { addressOf } from '../../../parts/format/addressText'
import { counted, timeOf } from '../../../parts/format/numbers'
import { Failed, Loading } from '../../../parts/States'
import { fieldNames } from './fieldNames'
import classes from './LinkHistory.module.css'
import { historyQuery, linkChanged, seen, type Link, type LinkVersion } from '../links'

/** Who changed what and when, how many went where, and the way back to each version. */
export function LinkHistory({ link, mayRestore }: { link: Link; mayRestore: boolean }) {
  const queries = useQueryClient()
  const history = useQuery(historyQuery(link))
  const restore = useMutation({
    mutationFn: (version: number) =>
      read(
        api.POST('/api/v1/links/{id}/restore', {
          params: { path: { id: link.id } },
          headers: seen(link),
          body: { version },
        }),
      ),
    onSuccess: (restored) => linkChanged(queries, restored),
    onError: () => queries.invalidateQueries({ queryKey: ['links', 'one', link.id] }),
  })
  if (history.isError) return <Failed error={history.error} onRetry={() => void history.refetch()} />
  if (!history.data) return <Loading rows={3} />
  return (
    <>
      {restore.isError && <Failed error={restore.error} />}
      <ol className={classes.versions} reversed>
        {history.data.map((version) => (
          <li key={version.version}>
            <div className={classes.head}>
              <span>
                <b>{version.until ? timeOf(version.since) : 'Now'}</b>{' '}
                {version.version === 1 ? 'made' : 'changed'} by {version.madeBy ?? 'a former member'}
                {!version.until && `, ${timeOf(version.since)}`}
              </span>
              {mayRestore && version.until && (
                <Button
                  size="compact-sm"
                  variant="subtle"
                  loading={restore.isPending && restore.variables === version.version}
                  onClick={() => restore.mutate(version.version)}
                  aria-label={`Restore version ${version.version}`}
                >
                  Restore
                </Button>
              )}
            </div>
            <Changes version={version} />
            <Text size="sm" c="dimmed" className={classes.led}>
              {version.clicks === null ? 'Clicks no longer kept' : counted(version.clicks, 'click')}
              {version.isRouted ? ', by its rules' : ` to ${addressOf(version.destination)}`}
            </Text>
          </li>
        ))}
      </ol>
    </>
  )
}

function Changes({ version }: { version: LinkVersion }) {
  if (version.differences.length === 0) return null
  return (
    <ul className={classes.changes} aria-label={version.many ? `Bulk change: ${version.many}` : undefined}>
      {version.differences.map(({ field, from, to }) => (
        <li key={field}>
          {fieldNames[field]}: {from !== null && <del>{from}</del>}
          {from !== null && ' → '}
          {to === null ? 'none' : <ins>{to}</ins>}
        </li>
      ))}
    </ul>
  )
}
