import { Button, Group, Text, TextInput } from '@mantine/core'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { wordsOf } from '../../../api/client'
import { counted } from '../../../parts/format/numbers'
import type { Link } from '../links'
import { useSavedRoute, type Route } from './routes'
import { SavedRouteField } from './SavedRouteField'
import { useRouteKept, type SavedRoute } from './savedRoutes'

interface Props {
  link: Link
  route: Route
  /** The saved route that the link follows. */
  saved?: SavedRoute
  isRouted: boolean
  mayChange: boolean
}

/** Which saved route a link follows, and the ways to follow one, to leave it, and to make one of the link’s own rules. */
export function SavedRouteOfLink({ link, route, saved, isRouted, mayChange }: Props) {
  const save = useSavedRoute(link)
  if (saved)
    return (
      <Text size="sm" mb={8}>
        Saved route: <b>{saved.name}</b>, used by {counted(saved.links, 'link')}.
        {mayChange && (
          <>
            {saved.links > 1 && ' Changes here apply to all of them.'}{' '}
            <Button
              size="compact-sm"
              variant="subtle"
              loading={save.isPending}
              onClick={() => save.mutate({ ...route, routeId: null })}
            >
              Use separate rules
            </Button>
          </>
        )}
        {save.error && <span role="alert">{wordsOf(save.error)}</span>}
      </Text>
    )
  if (!mayChange || route.routeId) return null
  if (isRouted)
    return <SaveAsRoute route={route} onSaved={(routeId) => save.mutateAsync({ remember: 'day', routeId })} />
  return (
    <SavedRouteField
      label="Saved route"
      value={null}
      onChange={(routeId) => routeId && save.mutate({ remember: 'day', routeId })}
    />
  )
}

/** Keeps the rules of a link under a name and has the link follow them. */
function SaveAsRoute({ route, onSaved }: { route: Route; onSaved: (id: string) => Promise<unknown> }) {
  const [name, setName] = useState<string>()
  const keep = useRouteKept()
  const saving = useMutation({
    mutationFn: async (name: string) => onSaved((await keep.mutateAsync({ name, routes: route })).id),
    onSuccess: () => setName(undefined),
  })
  if (name === undefined)
    return (
      <Button size="compact-sm" variant="subtle" mb={8} onClick={() => setName('')}>
        Save these rules for other links…
      </Button>
    )
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        saving.mutate(name.trim())
      }}
    >
      <Group gap={8} align="end" mb="sm">
        <TextInput
          size="sm"
          label="Name of the saved route"
          autoFocus
          required
          maxLength={80}
          value={name}
          onChange={(event) => setName(event.currentTarget.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Escape') return
            event.stopPropagation()
            setName(undefined)
          }}
          error={saving.error && wordsOf(saving.error)}
        />
        <Button type="submit" size="sm" loading={saving.isPending}>
          Save
        </Button>
        <Button size="sm" variant="default" onClick={() => setName(undefined)}>
          Cancel
        </Button>
      </Group>
    </form>
  )
}
