import { Button, Group, Text } from '@mantine/core'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read } from '../../../api/client'
import { vocabulary } from '../../../api/vocabulary'
import { counted } from '../../../parts/format/numbers'
import { NameActions } from '../../../parts/NameActions'
import { Sheet } from '../../../parts/Sheet'
import { Failed, Loading } from '../../../parts/States'
import { mayEdit, useSession } from '../../access/session'
import { SavedRouteWindow } from './SavedRouteWindow'

/** Rules kept under a name: what they say, and how many links follow them. */
export function SavedRoutesSection() {
  const routes = useQuery(vocabulary.routes)
  const isEditor = mayEdit(useSession())
  const queries = useQueryClient()
  const [opened, setOpened] = useState<string>()
  const refresh = () =>
    Promise.all([['routes'], ['links']].map((queryKey) => queries.invalidateQueries({ queryKey })))
  if (routes.isError) return <Failed error={routes.error} onRetry={() => void routes.refetch()} />
  if (!routes.data) return <Loading rows={2} />
  return (
    <>
      {routes.data.length === 0 ? (
        <Text c="dimmed">
          No saved routes yet. A saved route leads visitors of many links by the same rules; change it once,
          and all of them change.
        </Text>
      ) : (
        <Sheet about="Links that follow a saved route change with it." columns={['Route', 'Used by', '']}>
          {routes.data.map((route) => {
            const path = { params: { path: { id: route.id } } }
            return (
              <tr key={route.id}>
                <td>
                  <b>{route.name}</b>
                  <Text size="sm" c="dimmed">
                    {route.words}
                  </Text>
                </td>
                <td style={{ whiteSpace: 'nowrap' }}>{counted(route.links, 'link')}</td>
                <td style={{ textAlign: 'right' }}>
                  {isEditor && (
                    <Group gap={0} justify="flex-end" wrap="nowrap">
                      <Button
                        size="compact-sm"
                        variant="subtle"
                        aria-label={`Edit the rules of ${route.name}`}
                        onClick={() => setOpened(route.id)}
                      >
                        Edit
                      </Button>
                      <NameActions
                        name={route.name}
                        loses="Links keep its rules as their own."
                        onRename={(name) =>
                          read(api.PATCH('/api/v1/routes/{id}', { ...path, body: { name } })).then(refresh)
                        }
                        onDelete={() => read(api.DELETE('/api/v1/routes/{id}', path)).then(refresh)}
                      />
                    </Group>
                  )}
                </td>
              </tr>
            )
          })}
        </Sheet>
      )}
      {isEditor && (
        <Button mt="md" onClick={() => setOpened('new')}>
          New route
        </Button>
      )}
      {opened && (
        <SavedRouteWindow
          route={routes.data.find((route) => route.id === opened)}
          onClose={() => setOpened(undefined)}
        />
      )}
    </>
  )
}
