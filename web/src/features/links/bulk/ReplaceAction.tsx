import { Button, Checkbox, Drawer, Group, Stack, Text, TextInput } from '@mantine/core'
import { useDebouncedValue } from '@mantine/hooks'
import { IconReplace } from '@tabler/icons-react'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read } from '../../../api/client'
import { addressOf } from '../../../parts/format/addressText'
import { count, counted } from '../../../parts/format/numbers'
import { Failed } from '../../../parts/States'
import type { ActionProps } from './BulkActions'
import classes from './ReplaceAction.module.css'

/** Replaces a part of the links' destinations, after a look at what comes out. */
export function ReplaceAction(props: ActionProps) {
  const [isOpen, setIsOpen] = useState(false)
  return (
    <>
      <Button
        size="sm"
        variant="default"
        disabled={props.isBusy}
        leftSection={<IconReplace size={16} aria-hidden />}
        onClick={() => setIsOpen(true)}
      >
        Destination
      </Button>
      <Drawer
        opened={isOpen}
        onClose={() => setIsOpen(false)}
        position="right"
        size={560}
        title={`Change the destinations of ${counted(props.count, 'link')}`}
      >
        <Replace {...props} onDone={() => setIsOpen(false)} />
      </Drawer>
    </>
  )
}

function Replace({ links, onChange, onDone }: ActionProps & { onDone: () => void }) {
  const [typed, setTyped] = useState({ find: '', replaceWith: '' })
  const [isGoodOnly, setIsGoodOnly] = useState(false)
  const [settled] = useDebouncedValue(typed, 300)
  const preview = useQuery({
    queryKey: ['link-changes', 'preview', links, settled],
    queryFn: () =>
      read(api.POST('/api/v1/link-changes/preview', { body: { links, change: settled, isGoodOnly: false } })),
    enabled: settled.find.trim() !== '',
    placeholderData: keepPreviousData,
  })
  const seen = settled.find.trim() === '' ? undefined : preview.data
  const isStale = settled !== typed || preview.isFetching
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        onDone()
        void onChange(typed, isGoodOnly)
      }}
    >
      <Stack gap="sm">
        <TextInput
          label="Replace"
          placeholder="old.northmoor.example"
          data-autofocus
          value={typed.find}
          onChange={(event) => setTyped({ ...typed, find: event.currentTarget.value })}
        />
        <TextInput
          label="with"
          placeholder="www.northmoor.example"
          value={typed.replaceWith}
          onChange={(event) => setTyped({ ...typed, replaceWith: event.currentTarget.value })}
        />
        {preview.isError && <Failed error={preview.error} />}
        {seen && (
          <>
            <Text size="sm" role="status">
              {seen.changed === 0
                ? 'No destination contains that.'
                : `${count(seen.changed)} of ${counted(seen.found, 'destination')} change.`}
              {seen.refused > 0 && ` ${count(seen.refused)} can’t be changed this way.`}
            </Text>
            <ul className={classes.examples}>
              {seen.examples.map((example) => (
                <li key={example.id}>
                  <b>{addressOf(example.shortUrl)}</b>
                  <del>{example.from}</del>
                  <ins>{example.to}</ins>
                </li>
              ))}
              {seen.problems.map((problem) => (
                <li key={problem.id}>
                  <b>{addressOf(problem.shortUrl)}</b>
                  <span className={classes.problem}>{problem.text}</span>
                </li>
              ))}
            </ul>
            {seen.refused > 0 && (
              <Checkbox
                label="Skip those and change the rest"
                checked={isGoodOnly}
                onChange={(event) => setIsGoodOnly(event.currentTarget.checked)}
              />
            )}
          </>
        )}
        <Group>
          <Button
            type="submit"
            disabled={isStale || !seen || seen.changed === 0 || (seen.refused > 0 && !isGoodOnly)}
          >
            {seen && seen.changed > 0 ? `Change ${counted(seen.changed, 'link')}` : 'Change'}
          </Button>
        </Group>
      </Stack>
    </form>
  )
}
