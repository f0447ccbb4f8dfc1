import { Button, Group, Modal, Text } from '@mantine/core'
import { useState } from 'react'
import { RouteFork, type Opened } from './RouteFork'
import { SavedRouteField } from './SavedRouteField'
import { useRouteOf } from './savedRoutes'
import { routeWords, useCheckedRoute, type Route } from './routes'

interface Props {
  /** Whose rules they are: "all rows" or a channel. */
  of: string
  routes?: Route
  /** What applies where nothing is set here. */
  given?: Route
  destination: string
  onChange: (routes: Route | undefined) => void
}

const isEmpty = (route: Route) => !route.rules?.length && !route.otherwise && !route.routeId

/** The rules of links that are yet to be made, in few words, and a window to change them in. */
export function RoutesField({ of, routes, given, destination, onChange }: Props) {
  const [opened, setOpened] = useState<{ at?: Opened }>()
  const check = useCheckedRoute()
  const saved = useRouteOf((routes ?? given)?.routeId)
  const own = routes ?? given ?? {}
  const save = async (changed: Route) => {
    const checked = await check.mutateAsync(changed)
    onChange(isEmpty(checked) && !given ? undefined : checked)
  }
  return (
    <div>
      <Text size="sm" mb={6}>
        {routes
          ? (saved?.name ?? routeWords(routes))
          : given && !isEmpty(given)
            ? `same as all rows: ${saved?.name ?? routeWords(given)}`
            : 'everybody to the destination'}
      </Text>
      <SavedRouteField
        label={`Saved route for ${of}`}
        value={routes?.routeId ?? null}
        onChange={(routeId) => onChange(routeId ? { remember: 'day', routeId } : undefined)}
      />
      <Group gap={8}>
        {own.routeId ? null : isEmpty(own) ? (
          <>
            <Button
              size="compact-sm"
              variant="default"
              aria-label={`Split ${of} over several pages`}
              onClick={() => setOpened({ at: 'otherwise' })}
            >
              Split over several pages…
            </Button>
            <Button
              size="compact-sm"
              variant="default"
              aria-label={`Rules for ${of}`}
              onClick={() => setOpened({ at: 'new' })}
            >
              Rules…
            </Button>
          </>
        ) : (
          <Button
            size="compact-sm"
            variant="default"
            aria-label={`Rules for ${of}`}
            onClick={() => setOpened({})}
          >
            {routes ? 'Rules…' : 'Rules of its own…'}
          </Button>
        )}
        {routes && (
          <Button
            size="compact-sm"
            variant="subtle"
            aria-label={`Remove the rules of ${of}`}
            onClick={() => onChange(undefined)}
          >
            {given ? 'Same as all rows' : 'Remove'}
          </Button>
        )}
        {!routes && given && !isEmpty(given) && (
          <Button
            size="compact-sm"
            variant="subtle"
            aria-label={`No rules for ${of}`}
            onClick={() => onChange({})}
          >
            None
          </Button>
        )}
      </Group>
      <Modal
        closeButtonProps={{ 'aria-label': 'Close' }}
        opened={opened !== undefined}
        onClose={() => setOpened(undefined)}
        title={`Where ${of} lead`}
        size="lg"
      >
        <RouteFork
          route={own}
          destination={destination}
          mayChange
          opens={opened?.at}
          isSaving={check.isPending}
          error={check.error}
          onSave={save}
          onReset={check.reset}
        />
        <Button variant="default" onClick={() => setOpened(undefined)}>
          Done
        </Button>
      </Modal>
    </div>
  )
}
