import { MultiSelect, Select, Stack } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { vocabulary, type Domain } from '../../api/vocabulary'
import { FolderField } from '../../parts/FolderField'
import { redirects } from '../../parts/format/redirects'
import { slugKinds } from '../../parts/format/slugKinds'
import { TagsField } from '../../parts/TagPill'
import { CampaignField } from '../posts/send/CampaignField'
import { PixelsField } from '../retargeting/PixelsField'
import type { BatchRequest, ListField } from './batches'

type ForAll = NonNullable<BatchRequest['forAll']>

interface Props {
  forAll: ForAll
  columns: ReadonlyArray<ListField | null>
  domains: Domain[]
  onChange: (forAll: ForAll) => void
}

/** What holds for every line that doesn't say otherwise. */
export function ForAllFields({ forAll, columns, domains, onChange }: Props) {
  const channels = useQuery(vocabulary.channels)
  const campaigns = useQuery(vocabulary.campaigns)
  const change = (part: Partial<ForAll>) => onChange({ ...forAll, ...part })
  const verified = domains.filter((d) => d.isVerified)
  return (
    <Stack gap={10}>
      <MultiSelect
        label="Channels"
        description={
          columns.includes('channel')
            ? 'For lines without a channel: one link for each'
            : 'Each line creates one link per channel'
        }
        placeholder={forAll.channels?.length ? '' : 'none (links without a channel)'}
        searchable
        data={channels.data?.filter((c) => !c.retiredAt).map((c) => ({ value: c.key, label: c.name })) ?? []}
        value={forAll.channels ?? []}
        onChange={(keys) => change({ channels: keys.length > 0 ? keys : undefined })}
      />
      <CampaignField
        campaigns={campaigns.data ?? []}
        value={forAll.campaign ?? null}
        onChange={(campaign) => change({ campaign })}
      />
      <TagsField
        label="Tags"
        value={forAll.tags ?? []}
        onChange={(names) => change({ tags: names.length > 0 ? names : undefined })}
      />
      <PixelsField
        value={forAll.pixels ?? []}
        onChange={(ids) => change({ pixels: ids.length > 0 ? ids : undefined })}
      />
      <Select
        label="Slugs"
        data={slugKinds}
        value={forAll.slugKind ?? 'random'}
        onChange={(kind) => change({ slugKind: kind })}
      />
      {verified.length > 1 && (
        <Select
          label="Short domain"
          data={verified.map((d) => ({ value: d.name, label: d.shown }))}
          value={forAll.domain ?? verified.find((d) => d.isDefault)?.name ?? null}
          onChange={(domain) => change({ domain: domain ?? undefined })}
        />
      )}
      <Select
        label="Redirect"
        clearable
        placeholder="default"
        data={redirects}
        value={forAll.redirect ? String(forAll.redirect) : null}
        onChange={(redirect) => change({ redirect: redirect ? Number(redirect) : undefined })}
      />
      <FolderField
        value={forAll.folder ?? null}
        onChange={(folder) => change({ folder: folder ?? undefined })}
      />
    </Stack>
  )
}
