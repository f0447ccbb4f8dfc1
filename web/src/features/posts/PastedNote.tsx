import { Button, Group, Text } from '@mantine/core'
import type { Schema } from '../../api/client'
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
    <Group gap={8} mb="sm" role="group" aria-label="What the pasted address carries">
      {values.length > 0 && (
        <>
          <Text size="sm" c="dimmed">
            The address says <b>{values.join(' / ')}</b>:
          </Text>
          <Button
            size="compact-sm"
            variant={choice === 'replace' ? 'light' : 'default'}
            aria-pressed={choice === 'replace'}
            onClick={() => onChoose('replace')}
          >
            Replace by the channels’ words
          </Button>
          <Button size="compact-sm" variant="default" onClick={onTakeOver}>
            Take over into the rows
          </Button>
          <Button
            size="compact-sm"
            variant={choice === 'keep' ? 'light' : 'default'}
            aria-pressed={choice === 'keep'}
            onClick={() => onChoose('keep')}
          >
            Leave as they are
          </Button>
        </>
      )}
      {pasted.withoutClickIds && (
        <>
          <Text size="sm" c="var(--caution)">
            {pasted.clickIds.join(', ')} belongs to the one visit this address was copied from.
          </Text>
          <Button size="compact-sm" variant="default" onClick={() => onStrip(pasted.withoutClickIds!)}>
            Strip it
          </Button>
        </>
      )}
      {pasted.withoutFragment && (
        <>
          <Text size="sm" c="dimmed">
            <b>#{pasted.fragment}</b> is not needed to tell links apart: each channel has a link of its own.
          </Text>
          <Button size="compact-sm" variant="default" onClick={() => onStrip(pasted.withoutFragment!)}>
            Leave it out
          </Button>
        </>
      )}
    </Group>
  )
}
