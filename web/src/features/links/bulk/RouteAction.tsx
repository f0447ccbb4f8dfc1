import { Select, Text } from '@mantine/core'
import { IconRoute } from '@tabler/icons-react'
import { useQuery } from '@tanstack/react-query'
import { vocabulary } from '../../../api/vocabulary'
import { above, Panel, type ActionProps } from './BulkActions'

/** Has the links follow a saved route, or takes their rules away. */
export function RouteAction({ isBusy, onChange }: ActionProps) {
  const routes = useQuery(vocabulary.routes)
  return (
    <Panel label="Rules" icon={<IconRoute size={16} aria-hidden />} isBusy={isBusy}>
      {(close) => (
        <>
          {routes.data?.length === 0 && (
            <Text size="sm">There are no saved routes yet. Add one in Settings.</Text>
          )}
          <Select
            label="Saved route"
            data-autofocus
            comboboxProps={above}
            data={[
              ...(routes.data?.map((route) => ({ value: route.id, label: route.name })) ?? []),
              { value: '', label: 'No rules' },
            ]}
            value={null}
            onChange={(routeId) => {
              close()
              if (routeId !== null) void onChange({ routeId })
            }}
          />
        </>
      )}
    </Panel>
  )
}
