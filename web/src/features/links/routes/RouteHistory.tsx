import { Button, Text } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { timeOf } from '../../../parts/format/numbers'
import { Failed, Loading } from '../../../parts/States'
import type { Route } from './routes'
import { routeHistoryQuery, type SavedRoute } from './savedRoutes'

interface Props {
  route: SavedRoute
  isSaving: boolean
  onRestore: (routes: Route) => Promise<unknown>
}

/** How a saved route was before, and the way back. */
export function RouteHistory({ route, isSaving, onRestore }: Props) {
  const history = useQuery(routeHistoryQuery(route))
  if (history.isError) return <Failed error={history.error} onRetry={() => void history.refetch()} />
  if (!history.data) return <Loading rows={2} />
  return (
    <section aria-label="Earlier versions">
      <Text fw={600} size="sm" mb={4}>
        Earlier versions
      </Text>
      <ol style={{ listStyle: 'none', padding: 0, margin: '0 0 16px' }}>
        {history.data
          .filter((version) => version.until)
          .map((version) => (
            <li key={version.number}>
              <Text size="sm" span>
                {timeOf(version.since)}, {version.madeBy ?? 'a former member'}:{' '}
              </Text>
              <Text size="sm" span c="dimmed">
                {version.words}
              </Text>
              <Button
                size="compact-sm"
                variant="subtle"
                loading={isSaving}
                aria-label={`Restore version ${version.number}`}
                onClick={() => void onRestore(version.routes).catch(() => undefined)}
              >
                Restore
              </Button>
            </li>
          ))}
      </ol>
    </section>
  )
}
