import { Button, CloseButton, Group, Pill, Popover, TextInput } from '@mantine/core'
import { useDebouncedCallback } from '@mantine/hooks'
import { IconPlus, IconSearch } from '@tabler/icons-react'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { vocabulary, type Channel } from '../../../api/vocabulary'
import { day } from '../../../parts/format/numbers'
import { membersQuery } from '../../access/session'
import { pixelsQuery } from '../../retargeting/pixels'
import { FilterFields, type FilterProps, type ListFilter } from './FilterFields'
import { asList, listOf, noFolder, states, type LinksSearch } from './linksSearch'
import classes from '../list/LinksPage.module.css'
import { SavedFilters } from './SavedFilters'

/** Words, and what else the list is narrowed to: each part as a chip that can be taken off. */
export function FilterBar({ search, channels, onNarrow }: FilterProps) {
  const chips = useChips(search, channels)
  return (
    <Group gap={8}>
      <WordsField query={search.query} onNarrow={onNarrow} />
      {chips.map(({ key, label, without }) => (
        <Pill
          key={key}
          size="lg"
          withRemoveButton
          onRemove={() => onNarrow(without)}
          removeButtonProps={{ 'aria-label': `Without ${label}`, tabIndex: 0, 'aria-hidden': false }}
        >
          {label}
        </Pill>
      ))}
      <Popover position="bottom-start" width={340} shadow="md" trapFocus withRoles={false}>
        <Popover.Target>
          <Button variant="default" size="sm" leftSection={<IconPlus size={15} aria-hidden />}>
            Filter
          </Button>
        </Popover.Target>
        <Popover.Dropdown aria-label="Filters" role="group" mah="70vh" style={{ overflowY: 'auto' }}>
          <FilterFields search={search} channels={channels} onNarrow={onNarrow} />
        </Popover.Dropdown>
      </Popover>
      <SavedFilters search={search} />
    </Group>
  )
}

/** Words are asked for while typing; the address follows, and a changed address resets the field. */
function WordsField({ query, onNarrow }: Pick<FilterProps, 'onNarrow'> & { query: string | undefined }) {
  const [text, setText] = useState(query ?? '')
  const [asked, setAsked] = useState(query)
  if (query !== asked) {
    // The address was changed elsewhere, by a saved filter or the way back.
    setAsked(query)
    if ((query ?? '') !== text.trim()) setText(query ?? '')
  }
  const ask = useDebouncedCallback((words: string) => onNarrow({ query: words.trim() || undefined }), 200)
  return (
    <TextInput
      aria-label="Search links"
      placeholder="Title, address, note, campaign or tag"
      className={classes.words}
      leftSection={<IconSearch size={16} aria-hidden />}
      value={text}
      onChange={(event) => {
        setText(event.currentTarget.value)
        ask(event.currentTarget.value)
      }}
      onKeyDown={(event) => {
        if (event.key !== 'ArrowDown') return
        event.preventDefault()
        document.querySelector<HTMLAnchorElement>('[data-link-row]')?.focus()
      }}
      rightSection={
        text && (
          <CloseButton
            aria-label="Clear search"
            onClick={() => {
              setText('')
              onNarrow({ query: undefined })
            }}
          />
        )
      }
    />
  )
}

interface Chip {
  key: string
  label: string
  without: Partial<LinksSearch>
}

/** What the list is narrowed to, in words. */
function useChips(search: LinksSearch, channels: ReadonlyMap<string, Channel>): Chip[] {
  const campaigns = useQuery({ ...vocabulary.campaigns, enabled: Boolean(search.campaign) })
  const members = useQuery({ ...membersQuery, enabled: Boolean(search.by) })
  const pixels = useQuery({ ...pixelsQuery, enabled: Boolean(search.pixels) })
  const names: Record<ListFilter, (value: string) => string> = {
    campaign: (key) => campaigns.data?.find((c) => c.key === key)?.name ?? key,
    channel: (key) => channels.get(key)?.name ?? key,
    tag: (name) => `tag: ${name}`,
    folder: (name) => (name === noFolder ? 'no folder' : `folder: ${name}`),
    domain: (name) => name,
    by: (id) => `created by ${members.data?.find((m) => m.id === id)?.name ?? 'a member'}`,
  }
  const lists = (Object.keys(names) as ListFilter[]).flatMap((filter) =>
    listOf(search[filter]).map((value) => ({
      key: `${filter} ${value}`,
      label: names[filter](value),
      without: { [filter]: asList(listOf(search[filter]).filter((other) => other !== value)) },
    })),
  )
  const single: Array<Chip | false | '' | undefined> = [
    search.tags === 'any' &&
      listOf(search.tag).length > 1 && {
        key: 'tags',
        label: 'any of the tags',
        without: { tags: undefined },
      },
    search.since && { key: 'since', label: `since ${day(search.since)}`, without: { since: undefined } },
    search.until && { key: 'until', label: `until ${day(search.until)}`, without: { until: undefined } },
    search.pixels && {
      key: 'pixels',
      label: pixelsLabel(search.pixels, pixels.data?.find((p) => p.id === search.pixels)?.name),
      without: { pixels: undefined },
    },
    search.state && {
      key: 'state',
      label: states[search.state].toLowerCase(),
      without: { state: undefined },
    },
    search.page && { key: 'page', label: 'to the same page', without: { page: undefined } },
    search.batch && { key: 'batch', label: 'created from one list', without: { batch: undefined } },
  ]
  return [...lists, ...single.filter((chip) => chip !== undefined && chip !== false && chip !== '')]
}

const pixelsLabel = (value: string, name: string | undefined) =>
  value === 'any' ? 'with pixels' : value === 'none' ? 'without pixels' : `pixel: ${name ?? '…'}`
