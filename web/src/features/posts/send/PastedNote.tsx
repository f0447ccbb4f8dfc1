import { Button, Group, Text } from '@mantine/core'
import type { Schema } from '../../../api/client'
import type { PastedTags } from './draft'

interface Props {
  pasted: Schema['PreviewPostPasted']
  choice: PastedTags
  onChoose: (choice: PastedTags) => void
  onTakeOver: () => void
  onStrip: (address: string) => void
}

/** What a pasted address carried with it: UTM values to choose about, and leftovers of one visit to strip. */
export function PastedNote({ pasted, choice, onChoose, onTakeOver, onStrip }: Props) {
  const values = [pasted.source, pasted.medium, pasted.campaign, pasted.term, pasted.content].filter(Boolean)
  return (
    <Group gap={8} mb="sm" role="group" aria-label="The address already has parameters">
      {values.length > 0 && (
        <>
          <Text size="sm" c="dimmed">
            The address has <b>{values.join(' / ')}</b>:
          </Text>
          <Button
            size="compact-sm"
            variant={choice === 'replace' ? 'light' : 'default'}
            aria-pressed={choice === 'replace'}
            onClick={() => onChoose('replace')}
          >
            Replace with channel values
          </Button>
          <Button size="compact-sm" variant="default" onClick={onTakeOver}>
            Use in all rows
          </Button>
          <Button
            size="compact-sm"
            variant={choice === 'keep' ? 'light' : 'default'}
            aria-pressed={choice === 'keep'}
            onClick={() => onChoose('keep')}
          >
            Keep them
          </Button>
        </>
      )}
      {pasted.withoutClickIds && (
        <>
          <Text size="sm" c="var(--caution)">
            {pasted.clickIds.join(', ')} belongs to the single visit this address was copied from.
          </Text>
          <Button size="compact-sm" variant="default" onClick={() => onStrip(pasted.withoutClickIds!)}>
            Remove it
          </Button>
        </>
      )}
      {pasted.withoutFragment && (
        <>
          <Text size="sm" c="dimmed">
            <b>#{pasted.fragment}</b> isn’t needed: each channel has its own link.
          </Text>
          <Button size="compact-sm" variant="default" onClick={() => onStrip(pasted.withoutFragment!)}>
            Remove it
          </Button>
        </>
      )}
    </Group>
  )
}
