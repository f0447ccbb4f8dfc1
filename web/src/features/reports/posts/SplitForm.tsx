import { Button, Group, NumberInput, Text } from '@mantine/core'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { api, read, wordsOf, type Schema } from '../../../api/client'
import { alike, whole, withPart } from './split'

export type ChannelVariants = Schema['VariantsReportChannelVariants']

interface Props {
  post: string
  of: ChannelVariants
  onDone: () => void
}

/** Says to which part of a channel's readers each variant was shown. */
export function SplitForm({ post, of, onDone }: Props) {
  // As they were ranked when it began, whatever is clicked meanwhile.
  const [variants] = useState(of.variants)
  const [parts, setParts] = useState(() =>
    of.isSplit ? variants.map((v) => v.exposure ?? 0) : alike(variants.length),
  )
  const queries = useQueryClient()
  const path = { id: post, channel: of.channel }
  const save = useMutation({
    mutationFn: (isSplit: boolean) =>
      isSplit
        ? read(
            api.PUT('/api/v1/posts/{id}/variants/{channel}/split', {
              params: { path },
              body: { parts: Object.fromEntries(variants.map((v, i) => [v.link, parts[i]!])) },
            }),
          )
        : read(api.DELETE('/api/v1/posts/{id}/variants/{channel}/split', { params: { path } })),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['variants', post] })
      onDone()
    },
  })
  const sum = parts.reduce((all, part) => all + part, 0)
  const submit = (event: FormEvent) => {
    event.preventDefault()
    save.mutate(true)
  }
  return (
    <form
      aria-label={`Split on ${of.name}`}
      onSubmit={submit}
      onKeyDown={(event) => event.key === 'Escape' && onDone()}
    >
      <Group align="end" gap="sm" mt="sm">
        {variants.map((v, i) => (
          <NumberInput
            key={v.link}
            label={`${v.label} shown to`}
            w={150}
            min={1}
            max={99}
            suffix="%"
            allowDecimal={false}
            autoFocus={i === 0}
            value={parts[i]}
            onChange={(value) => typeof value === 'number' && setParts(withPart(parts, i, value))}
          />
        ))}
        <Button type="submit" loading={save.isPending} disabled={sum !== whole}>
          Save split
        </Button>
        {of.isSplit && (
          <Button variant="default" disabled={save.isPending} onClick={() => save.mutate(false)}>
            Reset to equal
          </Button>
        )}
        <Button variant="subtle" onClick={onDone}>
          Cancel
        </Button>
      </Group>
      <Text size="sm" mt={6} role="status" c={save.isError ? 'var(--bad)' : 'dimmed'}>
        {save.isError
          ? wordsOf(save.error)
          : sum === whole
            ? 'Share of the channel’s audience that saw each variant, in whole per cent.'
            : `The parts add up to ${sum}%. They must add up to 100%.`}
      </Text>
    </form>
  )
}
