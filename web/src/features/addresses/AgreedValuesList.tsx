import { Button, Group, Pill, Popover, Text, Textarea, TextInput } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read, wordsOf } from '../../api/client'
import { agreedValuesQuery } from '../../api/vocabulary'
import { counted } from '../../parts/format/numbers'

/** The agreed values of one field, added one by one or by a list with one value a line. */
export function AgreedValuesList(props: { field: 'term' | 'content'; label: string; mayChange: boolean }) {
  const { field, label, mayChange } = props
  const values = useQuery({ ...agreedValuesQuery, select: (all) => all.filter((v) => v.field === field) })
  const queries = useQueryClient()
  const refresh = () => queries.invalidateQueries({ queryKey: ['agreed-values'] })
  const [value, setValue] = useState('')
  const [lines, setLines] = useState('')
  const add = useMutation({
    mutationFn: () => read(api.POST('/api/v1/agreed-values', { body: { field, value } })),
    onSuccess: async () => {
      setValue('')
      await refresh()
    },
  })
  const addLines = useMutation({
    mutationFn: () => read(api.POST('/api/v1/agreed-values/lines', { body: { field, text: lines } })),
    onSuccess: async () => {
      setLines('')
      await refresh()
    },
  })
  const remove = useMutation({
    mutationFn: (id: string) => read(api.DELETE('/api/v1/agreed-values/{id}', { params: { path: { id } } })),
    onSuccess: refresh,
  })
  return (
    <section aria-label={label} style={{ marginBottom: 18 }}>
      <Group gap={6} mb={6}>
        <Text fw={600} w={90}>
          {label}
        </Text>
        {values.data?.length === 0 && <Text c="dimmed">none yet</Text>}
        {values.data?.map((v) => (
          <Pill
            key={v.id}
            size="md"
            withRemoveButton={mayChange}
            onRemove={() => remove.mutate(v.id)}
            removeButtonProps={{
              'aria-label': `Remove ${v.value} from the list`,
              tabIndex: 0,
              'aria-hidden': false,
            }}
          >
            {v.value}
          </Pill>
        ))}
      </Group>
      {mayChange && (
        <form
          onSubmit={(event) => {
            event.preventDefault()
            add.mutate()
          }}
        >
          <Group gap={8} align="start">
            <TextInput
              aria-label={`New value for ${label.toLowerCase()}`}
              placeholder="new value"
              size="sm"
              required
              value={value}
              onChange={(event) => setValue(event.currentTarget.value)}
              error={add.error && wordsOf(add.error)}
            />
            <Button type="submit" size="sm" variant="default" loading={add.isPending}>
              Add
            </Button>
            <Popover width={360} trapFocus shadow="md">
              <Popover.Target>
                <Button size="sm" variant="subtle">
                  Add a list
                </Button>
              </Popover.Target>
              <Popover.Dropdown>
                <Textarea
                  label="One value per line, for example from a CSV"
                  autosize
                  minRows={5}
                  maxRows={12}
                  value={lines}
                  onChange={(event) => setLines(event.currentTarget.value)}
                  error={addLines.error && wordsOf(addLines.error)}
                />
                <Button size="sm" mt={8} loading={addLines.isPending} onClick={() => addLines.mutate()}>
                  Add these lines
                </Button>
                {addLines.data && (
                  <div role="status" style={{ marginTop: 8, fontSize: 14 }}>
                    {counted(addLines.data.added, 'value')} added.
                    {addLines.data.problems.map((p) => (
                      <div key={p.line}>
                        Line {p.line}, “{p.text.slice(0, 40)}”: {p.reason}
                      </div>
                    ))}
                  </div>
                )}
              </Popover.Dropdown>
            </Popover>
          </Group>
        </form>
      )}
    </section>
  )
}
