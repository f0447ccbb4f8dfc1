import { Button, MultiSelect, SegmentedControl, Select, Stack, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link as RouterLink } from '@tanstack/react-router'
import { vocabulary, type Channel } from '../../../api/vocabulary'
import { inPanel } from '../../../parts/inPanel'
import { membersQuery } from '../../access/session'
import { pixelsQuery } from '../../retargeting/pixels'
import { asList, listOf, noFolder, states, type LinksSearch, type LinksState } from './linksSearch'

export interface FilterProps {
  search: LinksSearch
  channels: ReadonlyMap<string, Channel>
  onNarrow: (part: Partial<LinksSearch>) => void
}

export type ListFilter = 'campaign' | 'channel' | 'tag' | 'folder' | 'domain' | 'by'

/** Everything that links can be narrowed to. */
export function FilterFields({ search, channels, onNarrow }: FilterProps) {
  const campaigns = useQuery(vocabulary.campaigns)
  const tags = useQuery(vocabulary.tags)
  const folders = useQuery(vocabulary.folders)
  const domains = useQuery(vocabulary.domains)
  const members = useQuery(membersQuery)
  const pixels = useQuery(pixelsQuery)
  const several = (
    filter: ListFilter,
    label: string,
    data: Array<string | { value: string; label: string }>,
  ) => (
    <MultiSelect
      label={label}
      placeholder={search[filter] ? '' : 'any'}
      searchable
      comboboxProps={inPanel}
      data={data}
      value={listOf(search[filter])}
      onChange={(values) => onNarrow({ [filter]: asList(values) })}
    />
  )
  const dayField = (filter: 'since' | 'until', label: string) => (
    <TextInput
      type="date"
      label={label}
      value={search[filter] ?? ''}
      onChange={(event) => onNarrow({ [filter]: event.currentTarget.value || undefined })}
    />
  )
  return (
    <Stack gap={10}>
      <Select
        label="State"
        comboboxProps={inPanel}
        data={[
          { value: '', label: 'All except archived' },
          ...Object.entries(states).map(([value, label]) => ({ value, label })),
        ]}
        value={search.state ?? ''}
        onChange={(state) => onNarrow({ state: (state || undefined) as LinksState | undefined })}
      />
      {several('tag', 'Tags', tags.data?.map((t) => t.name) ?? [])}
      {listOf(search.tag).length > 1 && (
        <SegmentedControl
          aria-label="Which of the tags"
          size="xs"
          data={[
            { value: 'all', label: 'all of them' },
            { value: 'any', label: 'any of them' },
          ]}
          value={search.tags ?? 'all'}
          onChange={(value) => onNarrow({ tags: value === 'any' ? 'any' : undefined })}
        />
      )}
      {several('campaign', 'Campaigns', campaigns.data?.map((c) => ({ value: c.key, label: c.name })) ?? [])}
      {several(
        'channel',
        'Channels',
        [...channels.values()].map((c) => ({ value: c.key, label: c.name })),
      )}
      {(folders.data?.length ?? 0) > 0 &&
        several('folder', 'Folders', [
          ...folders.data!.map((f) => f.name),
          { value: noFolder, label: 'No folder' },
        ])}
      {several('domain', 'Short domains', domains.data?.map((d) => d.name) ?? [])}
      {several('by', 'Created by', members.data?.map((m) => ({ value: m.id, label: m.name })) ?? [])}
      {dayField('since', 'Created since')}
      {dayField('until', 'Created until')}
      <Select
        label="Pixels"
        comboboxProps={inPanel}
        data={[
          { value: '', label: 'any' },
          { value: 'any', label: 'with pixels' },
          { value: 'none', label: 'without pixels' },
          ...(pixels.data?.map((p) => ({ value: p.id, label: p.name })) ?? []),
        ]}
        value={search.pixels ?? ''}
        onChange={(value) => onNarrow({ pixels: value || undefined })}
      />
      <Button
        variant="subtle"
        size="compact-sm"
        renderRoot={(props) => <RouterLink to="/links" search={asShown(search)} {...props} />}
      >
        Clear filters
      </Button>
    </Stack>
  )
}

/** How the list is shown, without what it is narrowed to. */
const asShown = ({ view, sort, without }: LinksSearch): LinksSearch => ({ view, sort, without })
