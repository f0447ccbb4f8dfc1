import { Checkbox, Select, Stack, Text, TextInput } from '@mantine/core'
import type { Domain } from '../../api/vocabulary'
import { FolderField } from '../../parts/FolderField'
import { inPanel } from '../../parts/inPanel'
import { optionSwitches, passings, redirects, referrers } from '../../parts/redirects'
import { SpanFields } from '../../parts/SpanFields'
import { slugKinds } from '../../parts/slugKinds'
import { TagsField } from '../../parts/TagPill'
import { PixelsField } from '../retargeting/PixelsField'
import type { Wishes } from './draft'

interface Props {
  /** Whom the fields belong to, for their names: "all rows" or a channel. */
  of: string
  wishes: Wishes
  /** What holds where nothing is wished here. */
  given: Wishes
  domains: Domain[]
  /** True shows what stands outside the panel for all rows: domain, redirect and tags. */
  isForOneRow: boolean
  onChange: (wishes: Wishes) => void
}

/** How links behave on the way and stand in web pages: for all rows, or for one. */
export function OptionsPanel({ of, wishes, given, domains, isForOneRow, onChange }: Props) {
  const options = wishes.options ?? {}
  const change = (part: Partial<Wishes>) => onChange(pruned({ ...wishes, ...part }))
  const setOption = (part: Wishes['options']) => change({ options: { ...options, ...part } })
  const asAll = isForOneRow ? 'as for all' : 'as the domain says'
  const name = (label: string) => `${label} for ${of}`
  return (
    <Stack gap={10}>
      {isForOneRow && (
        <>
          <Select
            comboboxProps={inPanel}
            label="Short domain"
            aria-label={name('Short domain')}
            clearable
            placeholder={asAll}
            data={domains.filter((d) => d.isVerified).map((d) => ({ value: d.name, label: d.shown }))}
            value={wishes.domain ?? null}
            onChange={(domain) => change({ domain: domain ?? undefined })}
          />
          <Select
            comboboxProps={inPanel}
            label="Redirect"
            aria-label={name('Redirect')}
            clearable
            placeholder={asAll}
            data={redirects}
            value={wishes.redirect ? String(wishes.redirect) : null}
            onChange={(redirect) => change({ redirect: redirect ? Number(redirect) : undefined })}
          />
          <TagsField
            comboboxProps={inPanel}
            label="Tags"
            aria-label={name('Tags')}
            placeholder={wishes.tags ? '' : asAll}
            value={wishes.tags ?? []}
            onChange={(names) => change({ tags: names.length > 0 ? names : undefined })}
          />
        </>
      )}
      <PixelsField
        comboboxProps={inPanel}
        aria-label={name('Pixels')}
        description={
          isForOneRow ? 'Beside those for all rows' : 'Beside those of the campaign and the channels'
        }
        value={wishes.pixels ?? []}
        onChange={(ids) => change({ pixels: ids.length > 0 ? ids : undefined })}
      />
      <Select
        comboboxProps={inPanel}
        label="Slugs"
        aria-label={name('Slugs')}
        clearable={isForOneRow}
        placeholder={asAll}
        data={slugKinds}
        value={wishes.slugKind ?? (isForOneRow ? null : 'readable')}
        onChange={(kind) => change({ slugKind: (kind as Wishes['slugKind']) ?? undefined })}
      />
      <Select
        comboboxProps={inPanel}
        label="Parameters a visitor brings"
        aria-label={name('Parameters')}
        clearable
        placeholder={asAll}
        data={passings}
        value={options.passQuery ?? null}
        onChange={(value) => setOption({ passQuery: value as typeof options.passQuery })}
      />
      <Select
        comboboxProps={inPanel}
        label="Where the visitor came from"
        aria-label={name('Referrer')}
        clearable
        placeholder={asAll}
        data={referrers}
        value={options.referrer ?? null}
        onChange={(value) => setOption({ referrer: value as typeof options.referrer })}
      />
      {optionSwitches.map(({ key, label }) => (
        <Checkbox
          key={key}
          label={label}
          checked={options[key] ?? given.options?.[key] ?? false}
          onChange={(event) => setOption({ [key]: event.currentTarget.checked })}
        />
      ))}
      <TextInput
        label="Text of the link in HTML"
        placeholder="the title"
        value={options.anchorText ?? ''}
        onChange={(event) => setOption({ anchorText: event.currentTarget.value || null })}
      />
      <TextInput
        label="Title attribute in HTML"
        placeholder="none"
        value={options.titleAttribute ?? ''}
        onChange={(event) => setOption({ titleAttribute: event.currentTarget.value || null })}
      />
      <TextInput
        label="Note for colleagues"
        placeholder="none"
        value={wishes.note ?? ''}
        onChange={(event) => change({ note: event.currentTarget.value || undefined })}
      />
      <FolderField
        comboboxProps={inPanel}
        aria-label={name('Folder')}
        value={wishes.folder ?? null}
        onChange={(folder) => change({ folder: folder ?? undefined })}
      />
      <SpanFields
        of={of}
        opensAt={wishes.opensAt ?? ''}
        endsAt={wishes.endsAt ?? ''}
        onOpensAt={(opensAt) => change({ opensAt: opensAt || undefined })}
        onEndsAt={(endsAt) => change({ endsAt: endsAt || undefined })}
      />
      <Text size="xs" c="dimmed">
        301 and 308 tell search engines to pass the ranking on, 302 and 307 do not. Whatever the type, each
        visit is counted and a changed destination holds at once.
      </Text>
    </Stack>
  )
}

/** Without what is wished no more. */
function pruned(wishes: Wishes): Wishes {
  const options = Object.fromEntries(
    Object.entries(wishes.options ?? {}).filter(([, value]) => value != null),
  )
  const kept = Object.fromEntries(
    Object.entries(wishes).filter(([key, value]) => key !== 'options' && value !== undefined),
  )
  return Object.keys(options).length > 0 ? { ...kept, options } : kept
}
