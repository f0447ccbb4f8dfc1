import { Text } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { counted, timeOf } from '../../../parts/format/numbers'
import { Failed, Loading } from '../../../parts/States'
import type { Link } from '../links'
import { RouteFork } from './RouteFork'
import { figuresQuery, routesQuery, useSavedRoute } from './routes'
import { SavedRouteOfLink } from './SavedRouteOfLink'
import { useRouteKept, useRouteOf } from './savedRoutes'
import { TryRoute } from './TryRoute'

/** Where a link leads whom, with the people who took each way. */
export function WhereItLeads({ link, mayChange }: { link: Link; mayChange: boolean }) {
  const route = useQuery(routesQuery(link))
  const isRouted = Boolean(route.data && (route.data.rules?.length || route.data.otherwise))
  const figures = useQuery({ ...figuresQuery(link), enabled: isRouted })
  const save = useSavedRoute(link)
  const keep = useRouteKept()
  const saved = useRouteOf(route.data?.routeId)
  if (route.isError) return <Failed error={route.error} onRetry={() => void route.refetch()} />
  if (!route.data) return <Loading rows={2} />
  const people = figures.data?.branches.reduce((sum, branch) => sum + branch.people, 0)
  return (
    <section aria-label="Where it leads">
      {isRouted && people !== undefined && (
        <Text size="sm" c="dimmed" mb={8}>
          {counted(people, 'person', 'people')}
          {figures.data?.since
            ? ` since the rules last changed, ${timeOf(figures.data.since)}`
            : ' since the link was created'}
          . Whoever comes on two days counts twice.
        </Text>
      )}
      <SavedRouteOfLink
        link={link}
        route={route.data}
        saved={saved}
        isRouted={isRouted}
        mayChange={mayChange}
      />
      <RouteFork
        route={route.data}
        destination={link.destination}
        figures={isRouted ? figures.data : undefined}
        mayChange={mayChange && Boolean(saved) === Boolean(route.data.routeId)}
        isSaving={save.isPending || keep.isPending}
        error={save.error ?? keep.error}
        onSave={(changed) =>
          saved ? keep.mutateAsync({ id: saved.id, routes: changed }) : save.mutateAsync(changed)
        }
        onReset={() => {
          save.reset()
          keep.reset()
        }}
      />
      {figures.isError && <Failed error={figures.error} onRetry={() => void figures.refetch()} />}
      {isRouted && <TryRoute link={link} route={route.data} />}
    </section>
  )
}
