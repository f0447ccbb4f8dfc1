import { Button, Modal, Text, TextInput } from '@mantine/core'
import { useRef, useState } from 'react'
import { counted } from '../../../parts/format/numbers'
import { RouteFork } from './RouteFork'
import { RouteHistory } from './RouteHistory'
import type { Route } from './routes'
import { useRouteKept, type SavedRoute } from './savedRoutes'

/** Changes a saved route with all links that follow it, or makes a new one. */
export function SavedRouteWindow({ route, onClose }: { route?: SavedRoute; onClose: () => void }) {
  const [made, setMade] = useState<SavedRoute>()
  const [name, setName] = useState('')
  const [isNameless, setIsNameless] = useState(false)
  const nameField = useRef<HTMLInputElement>(null)
  const keep = useRouteKept()
  const present = made ?? route
  const save = async (routes: Route) => {
    if (!present && !name.trim()) {
      setIsNameless(true)
      nameField.current?.focus()
      throw new Error('It has no name yet.')
    }
    setMade(await keep.mutateAsync(present ? { id: present.id, routes } : { name: name.trim(), routes }))
  }
  return (
    <Modal
      opened
      onClose={onClose}
      size="lg"
      title={present?.name ?? 'New route'}
      closeButtonProps={{ 'aria-label': 'Close' }}
    >
      {!present && (
        <TextInput
          ref={nameField}
          label="Name"
          placeholder="Members, by device"
          data-autofocus
          maxLength={80}
          mb="md"
          value={name}
          error={isNameless && 'Give the route a name first.'}
          onChange={(event) => {
            setIsNameless(false)
            setName(event.currentTarget.value)
          }}
        />
      )}
      {present && present.links > 0 && (
        <Text size="sm" mb="md">
          {counted(present.links, 'link')} {present.links === 1 ? 'follows' : 'follow'} this route and will
          change with it.
        </Text>
      )}
      <RouteFork
        route={present?.routes ?? {}}
        mayChange
        isSaving={keep.isPending}
        error={keep.error}
        onSave={save}
        onReset={keep.reset}
      />
      {present && present.version > 1 && (
        <RouteHistory route={present} isSaving={keep.isPending} onRestore={save} />
      )}
      <Button variant="default" onClick={onClose}>
        Done
      </Button>
    </Modal>
  )
}
