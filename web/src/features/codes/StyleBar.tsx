import { Button, Group, Menu, Select, Text, TextInput } from '@mantine/core'
import { IconDots } from '@tabler/icons-react'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read, wordsOf } from '../../api/client'
import type { Link } from '../links/links'
import { stylesChanged, type CodeStyle, type SavedStyle } from './codes'

interface Props {
  link: Link
  styles: SavedStyle[]
  chosen: SavedStyle | undefined
  /** The style that the link's codes have. */
  inUse: SavedStyle | undefined
  style: CodeStyle
  isChanged: boolean
  maySave: boolean
  isEditor: boolean
  onChoose: (style: SavedStyle | undefined) => void
}

/** The workspace's saved styles: choose one, save what was changed, give it to this link. */
export function StyleBar(props: Props) {
  const { chosen, style, styles } = props
  const queries = useQueryClient()
  const [name, setName] = useState<string>()
  const again = (saved?: SavedStyle) => {
    if (saved) props.onChoose(saved)
    setName(undefined)
    return stylesChanged(queries)
  }
  const add = useMutation({
    mutationFn: (body: { name: string }) =>
      read(api.POST('/api/v1/code-styles', { body: { ...body, style, isDefault: styles.length === 0 } })),
    onSuccess: again,
  })
  const change = useMutation({
    mutationFn: (body: { style?: CodeStyle; isDefault?: boolean }) =>
      read(api.PATCH('/api/v1/code-styles/{id}', { params: { path: { id: chosen!.id } }, body })),
    onSuccess: again,
  })
  const remove = useMutation({
    mutationFn: () => read(api.DELETE('/api/v1/code-styles/{id}', { params: { path: { id: chosen!.id } } })),
    onSuccess: () => {
      props.onChoose(undefined)
      return again()
    },
  })
  const apply = useMutation({
    mutationFn: () =>
      read(api.POST('/api/v1/codes/style', { body: { style: chosen?.id ?? null, links: [props.link.id] } })),
    onSuccess: () => again(),
  })
  const failed = [add, change, remove, apply].find((m) => m.isError)?.error
  return (
    <div>
      <Group gap={8} align="end">
        <Select
          label="Style"
          placeholder="Black on white"
          clearable
          data={styles.map((s) => ({ value: s.id, label: s.isDefault ? `${s.name} (default)` : s.name }))}
          value={chosen?.id ?? null}
          onChange={(id) => props.onChoose(styles.find((s) => s.id === id))}
          style={{ flex: 1, minWidth: 180 }}
        />
        {props.isEditor && (
          <>
            {chosen && props.isChanged && (
              <Button
                disabled={!props.maySave}
                loading={change.isPending}
                onClick={() => change.mutate({ style })}
              >
                Save style
              </Button>
            )}
            {(props.isChanged || !chosen) && (
              <Button
                variant={chosen ? 'default' : 'filled'}
                disabled={!props.maySave}
                onClick={() => setName(chosen ? `${chosen.name} 2` : '')}
              >
                Save as new
              </Button>
            )}
            {!props.isChanged && props.inUse?.id !== chosen?.id && (
              <Button loading={apply.isPending} onClick={() => apply.mutate()}>
                Apply to this link
              </Button>
            )}
            {chosen && (
              <Menu position="bottom-end">
                <Menu.Target>
                  <Button variant="default" px={8} aria-label={`More for the style ${chosen.name}`}>
                    <IconDots size={16} aria-hidden />
                  </Button>
                </Menu.Target>
                <Menu.Dropdown>
                  {!chosen.isDefault && (
                    <Menu.Item onClick={() => change.mutate({ isDefault: true })}>
                      Make it the workspace default
                    </Menu.Item>
                  )}
                  {props.isChanged && (
                    <Menu.Item onClick={() => props.onChoose(chosen)}>Undo the changes</Menu.Item>
                  )}
                  <Menu.Item color="red" onClick={() => remove.mutate()}>
                    Delete the style
                  </Menu.Item>
                </Menu.Dropdown>
              </Menu>
            )}
          </>
        )}
      </Group>
      {name !== undefined && (
        <form
          onSubmit={(event) => {
            event.preventDefault()
            add.mutate({ name })
          }}
        >
          <Group gap={8} align="end" mt={8}>
            <TextInput
              label="Style name"
              autoFocus
              maxLength={60}
              value={name}
              onChange={(event) => setName(event.currentTarget.value)}
              style={{ flex: 1 }}
            />
            <Button type="submit" loading={add.isPending} disabled={!props.maySave}>
              Save
            </Button>
            <Button variant="subtle" onClick={() => setName(undefined)}>
              Cancel
            </Button>
          </Group>
        </form>
      )}
      {failed && (
        <Text role="alert" size="sm" c="var(--bad)" mt={6}>
          {wordsOf(failed)}
        </Text>
      )}
      {chosen && chosen.links > 0 && props.isChanged && (
        <Text size="sm" c="dimmed" mt={6}>
          {chosen.links} {chosen.links === 1 ? 'link has' : 'links have'} this style. Printed codes don’t
          change.
        </Text>
      )}
    </div>
  )
}
