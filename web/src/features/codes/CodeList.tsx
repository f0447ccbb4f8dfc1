import { Button, CloseButton, Group, Radio, Stack, Text, TextInput, Title } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link as RouterLink } from '@tanstack/react-router'
import { useState } from 'react'
import { api, read, wordsOf } from '../../api/client'
import { counted } from '../../parts/format/numbers'
import type { Link } from '../links/links'
import { toLink } from '../../parts/toLink'
import { codesOfLink } from './codes'

interface Props {
  link: Link
  code: number
  onChoose: (code: number) => void
  isEditor: boolean
}

/** The codes of a link that are counted apart, such as those of two posters. */
export function CodeList({ link, code, onChoose, isEditor }: Props) {
  const queries = useQueryClient()
  const codes = useQuery(codesOfLink(link.id))
  const [name, setName] = useState('')
  const again = () => queries.invalidateQueries({ queryKey: ['codes', link.id] })
  const add = useMutation({
    mutationFn: () =>
      read(api.POST('/api/v1/links/{id}/codes', { params: { path: { id: link.id } }, body: { name } })),
    onSuccess: (made) => {
      setName('')
      queries.setQueryData(codesOfLink(link.id).queryKey, made)
      onChoose(Math.max(...made.codes.map((c) => c.number)))
    },
  })
  const remove = useMutation({
    mutationFn: (number: number) =>
      read(api.DELETE('/api/v1/links/{id}/codes/{number}', { params: { path: { id: link.id, number } } })),
    onSuccess: (_, number) => {
      if (number === code) onChoose(1)
      return again()
    },
  })
  return (
    <section aria-label="Codes of this link">
      <Title order={3} size={16} mb={4}>
        Codes of this link
      </Title>
      <Text size="sm" c="dimmed" mb={8}>
        Create a code for each place, such as poster A and poster B, to see in Compare which one was scanned.{' '}
        <RouterLink to="/compare" search={{ by: 'code', post: link.post?.id }} style={toLink}>
          Compare codes
        </RouterLink>
      </Text>
      <Radio.Group value={String(code)} onChange={(value) => onChoose(Number(value))} aria-label="Code shown">
        <Stack gap={4}>
          {codes.data?.codes.map((c) => (
            <Group key={c.number} gap={8} wrap="nowrap">
              <Radio value={String(c.number)} label={c.name} style={{ flex: 1 }} />
              <Text size="sm" c="dimmed">
                {counted(c.scans, 'scan')}
              </Text>
              {isEditor && !c.isOwn && (
                <CloseButton
                  size="sm"
                  aria-label={`Archive ${c.name}; printed copies still work and count`}
                  onClick={() => remove.mutate(c.number)}
                />
              )}
            </Group>
          ))}
        </Stack>
      </Radio.Group>
      {isEditor && (
        <form
          onSubmit={(event) => {
            event.preventDefault()
            add.mutate()
          }}
        >
          <Group gap={8} mt={8} align="end">
            <TextInput
              label="Another code"
              placeholder="Poster B"
              value={name}
              maxLength={60}
              onChange={(event) => setName(event.currentTarget.value)}
              error={add.error ? wordsOf(add.error) : undefined}
              style={{ flex: 1 }}
            />
            <Button type="submit" variant="default" disabled={name.trim() === ''} loading={add.isPending}>
              Add code
            </Button>
          </Group>
        </form>
      )}
      {remove.isError && (
        <Text role="alert" size="sm" c="var(--bad)">
          {wordsOf(remove.error)}
        </Text>
      )}
    </section>
  )
}
