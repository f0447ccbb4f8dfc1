import { ActionIcon, Button, CloseButton, Group, NumberInput, Stack, Text, TextInput } from '@mantine/core'
import { IconLock, IconLockOpen } from '@tabler/icons-react'
import { SplitBar } from './SplitBar'
import { balanced, newPage, type PageValues } from './split'

interface Props {
  pages: PageValues[]
  error?: string
  errorOf: (place: number) => string | undefined
  /** Whether all pages may be removed. */
  mayBeNone: boolean
  onChange: (pages: PageValues[]) => void
}

const mostPages = 20

/** The pages that share the visitors, with their shares: one that is typed stays, the others share the rest. */
export function PagesFields({ pages, error, errorOf, mayBeNone, onChange }: Props) {
  const change = (place: number, part: Partial<PageValues>) =>
    pages.map((page, other) => (other === place ? { ...page, ...part } : page))
  const isSplit = pages.length > 1
  const sum = pages.reduce((all, page) => all + page.weight, 0)
  return (
    <Stack gap={8}>
      {isSplit && sum === 100 && <SplitBar pages={pages} onChange={onChange} />}
      {pages.map((page, place) => {
        const called = `page ${place + 1}`
        return (
          <Group key={place} gap={6} align="start" wrap="nowrap">
            <TextInput
              style={{ flex: 1 }}
              aria-label={`Address of ${called}`}
              placeholder="https://…"
              value={page.destination}
              error={errorOf(place)}
              onChange={(event) => onChange(change(place, { destination: event.currentTarget.value }))}
            />
            {isSplit && (
              <>
                <NumberInput
                  w={76}
                  aria-label={`Share of ${called}`}
                  suffix="%"
                  min={0}
                  max={100}
                  allowDecimal={false}
                  value={page.weight}
                  onChange={(weight) =>
                    onChange(balanced(change(place, { weight: Number(weight) || 0, isLocked: true })))
                  }
                />
                <ActionIcon
                  variant="subtle"
                  color="gray"
                  size={36}
                  aria-pressed={page.isLocked}
                  aria-label={`Keep the share of ${called}`}
                  onClick={() => onChange(change(place, { isLocked: !page.isLocked }))}
                >
                  {page.isLocked ? <IconLock size={16} /> : <IconLockOpen size={16} />}
                </ActionIcon>
              </>
            )}
            {(isSplit || mayBeNone) && (
              <CloseButton
                aria-label={`Remove ${called}`}
                size={36}
                onClick={() => {
                  const rest = pages.filter((_, other) => other !== place)
                  onChange(rest.length === 1 ? [{ ...rest[0]!, weight: 100 }] : balanced(opened(rest)))
                }}
              />
            )}
          </Group>
        )
      })}
      {error && (
        <Text size="sm" c="red" role="alert">
          {error}
        </Text>
      )}
      <Group gap={8}>
        {pages.length < mostPages && (
          <Button
            size="compact-sm"
            variant="default"
            onClick={() => onChange(balanced([...opened(pages), newPage()]))}
          >
            Add a page
          </Button>
        )}
        {isSplit && sum !== 100 && (
          <Text size="sm" c="red" role="status">
            The shares add up to {sum}%.
          </Text>
        )}
      </Group>
    </Stack>
  )
}

/** Where all are locked, nothing could be shared anew. */
const opened = (pages: PageValues[]) =>
  pages.every((page) => page.isLocked) ? pages.map((page) => ({ ...page, isLocked: false })) : pages
