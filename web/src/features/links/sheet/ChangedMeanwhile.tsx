import { Alert, Button, Group, Table, Text } from '@mantine/core'
import { useWorkspaceZone } from '../../access/session'
import { changedFields, valueNames, valueOf, valuesOf, type LinkValues } from './linkValues'
import type { Link } from '../links'

interface Props {
  /** Who was quicker. */
  told: string
  theirs: Link
  /** What both began with. */
  base: Link
  mine: LinkValues
  isSaving: boolean
  onMine: () => void
  onTheirs: () => void
}

/** Shows what somebody else has changed beside what was typed here, and asks which it is to be. */
export function ChangedMeanwhile({ told, theirs, base, mine, isSaving, onMine, onTheirs }: Props) {
  const timeZone = useWorkspaceZone()
  const [before, now] = [valuesOf(base, timeZone), valuesOf(theirs, timeZone)]
  const [theirFields, myFields] = [changedFields(before, now), changedFields(before, mine)]
  const fields = [...new Set([...theirFields, ...myFields])]
  const shown = (values: LinkValues, field: (typeof fields)[number]) => {
    const value = valueOf(values, field)
    if (typeof value === 'boolean') return value ? 'yes' : 'no'
    if (Array.isArray(value)) return value.length > 0 ? value.join(', ') : 'none'
    return value ? String(value) : value === 0 ? '0' : 'none'
  }
  return (
    <Alert
      role="alertdialog"
      variant="default"
      title="Changed by someone else"
      aria-label="Changed by someone else"
    >
      <Text size="sm">{told}</Text>
      <Table mt="sm" layout="fixed">
        <Table.Thead>
          <Table.Tr>
            <Table.Th w={96}></Table.Th>
            <Table.Th>Theirs (saved)</Table.Th>
            <Table.Th>Yours (not saved)</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {fields.map((field) => (
            <Table.Tr key={field}>
              <Table.Th scope="row" fw={400} c="dimmed">
                {valueNames[field]}
              </Table.Th>
              <Table.Td style={{ overflowWrap: 'anywhere' }}>{shown(now, field)}</Table.Td>
              <Table.Td
                style={{ overflowWrap: 'anywhere' }}
                fw={theirFields.includes(field) && myFields.includes(field) ? 600 : undefined}
              >
                {myFields.includes(field) ? shown(mine, field) : 'not touched'}
              </Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </Table>
      <Group gap={8} mt="sm">
        <Button loading={isSaving} onClick={onMine}>
          Save my changes
        </Button>
        <Button variant="default" onClick={onTheirs}>
          Keep theirs
        </Button>
      </Group>
    </Alert>
  )
}
