import { Button, Group, TextInput } from '@mantine/core'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { wordsOf } from '../api/client'

interface Props {
  name: string
  /** Left out where the name can’t change. */
  onRename?: (name: string) => Promise<unknown>
  onDelete: () => Promise<unknown>
  /** What is lost by deleting, asked before it is done; nothing is asked where nothing is lost. */
  loses?: string
}

/** Renames or deletes an entry of a list, in its row. */
export function NameActions({ name, onRename, onDelete, loses }: Props) {
  const [typed, setTyped] = useState<string | null>(null)
  const [isSure, setIsSure] = useState(false)
  const rename = useMutation({
    mutationFn: async (name: string) => onRename?.(name),
    onSuccess: () => setTyped(null),
  })
  const remove = useMutation({ mutationFn: onDelete })
  const error = rename.error ?? remove.error
  if (typed !== null)
    return (
      <form
        onSubmit={(event) => {
          event.preventDefault()
          rename.mutate(typed.trim())
        }}
      >
        <Group gap={8} justify="flex-end" wrap="nowrap" align="start">
          <TextInput
            aria-label={`New name for ${name}`}
            size="sm"
            autoFocus
            required
            value={typed}
            onChange={(event) => setTyped(event.currentTarget.value)}
            onKeyDown={(event) => event.key === 'Escape' && setTyped(null)}
            error={rename.error && wordsOf(rename.error)}
          />
          <Button type="submit" size="sm" loading={rename.isPending}>
            Save
          </Button>
        </Group>
      </form>
    )
  return (
    <Group gap={isSure ? 8 : 0} justify="flex-end" wrap={isSure || error ? 'wrap' : 'nowrap'}>
      {isSure ? (
        <>
          <span>{loses}</span>
          <Button size="compact-sm" color="red" loading={remove.isPending} onClick={() => remove.mutate()}>
            Delete
          </Button>
          <Button size="compact-sm" variant="default" onClick={() => setIsSure(false)}>
            Cancel
          </Button>
        </>
      ) : (
        <>
          {onRename && (
            <Button
              size="compact-sm"
              variant="subtle"
              aria-label={`Rename ${name}`}
              onClick={() => setTyped(name)}
            >
              Rename
            </Button>
          )}
          <Button
            size="compact-sm"
            variant="subtle"
            aria-label={`Delete ${name}`}
            loading={remove.isPending}
            onClick={() => (loses ? setIsSure(true) : remove.mutate())}
          >
            Delete
          </Button>
        </>
      )}
      {error && <div role="alert">{wordsOf(error)}</div>}
    </Group>
  )
}
