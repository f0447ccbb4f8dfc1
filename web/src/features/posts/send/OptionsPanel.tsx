import { Button, Select, Text, TextInput } from '@mantine/core'
import type { ReactNode } from 'react'
import type { Domain } from '../../../api/vocabulary'
import { FolderField } from '../../../parts/FolderField'
import { redirects } from '../../../parts/format/redirects'
import { LinkOptionFields } from '../../../parts/LinkOptionFields'
import { SpanFields } from '../../../parts/SpanFields'
import { slugKinds } from '../../../parts/format/slugKinds'
import { TagsField } from '../../../parts/TagPill'
import { RoutesField } from '../../links/routes/RoutesField'
import { PixelsField } from '../../retargeting/PixelsField'
import type { PostSettings } from './draft'
import classes from './OptionsPanel.module.css'

interface Props {
  /** Whom the fields belong to, for their names: "all rows" or a channel. */
  of: string
  settings: PostSettings
  /** What applies where nothing is set here. */
  given: PostSettings
  /** The page that links lead to without rules. */
  destination: string
  domains: Domain[]
  /** True shows what stands outside the panel for all rows: domain, redirect and tags. */
  isForOneRow: boolean
  /** Fields that only a row has, above its note and tags. */
  children?: ReactNode
  onChange: (settings: PostSettings) => void
  onClose: () => void
}

/** How links behave on the way and stand in web pages, in sections: for all rows, or for one. */
export function OptionsPanel({
  of,
  settings,
  given,
  destination,
  domains,
  isForOneRow,
  children,
  onChange,
  onClose,
}: Props) {
  const options = settings.options ?? {}
  const change = (part: Partial<PostSettings>) => onChange(pruned({ ...settings, ...part }))
  const setOption = (part: PostSettings['options']) => change({ options: { ...options, ...part } })
  const asAll = isForOneRow ? 'same as all rows' : 'default'
  const name = (label: string) => `${label} for ${of}`
  return (
    <div
      role="group"
      aria-label={`Options for ${of}`}
      className={classes.panel}
      onKeyDown={(event) => {
        if (event.key === 'Escape' && !event.defaultPrevented) onClose()
      }}
    >
      <div className={classes.sections}>
        <Section title={isForOneRow ? 'UTM, tags and folder' : 'Note and folder'}>
          {children}
          {isForOneRow && (
            <TagsField
              size="sm"
              label="Tags"
              aria-label={name('Tags')}
              placeholder={settings.tags ? '' : asAll}
              value={settings.tags ?? []}
              onChange={(names) => change({ tags: names.length > 0 ? names : undefined })}
            />
          )}
          <FolderField
            size="sm"
            aria-label={name('Folder')}
            value={settings.folder ?? null}
            onChange={(folder) => change({ folder: folder ?? undefined })}
          />
          <TextInput
            size="sm"
            label="Note for colleagues"
            placeholder="none"
            value={settings.note ?? ''}
            onChange={(event) => change({ note: event.currentTarget.value || undefined })}
          />
        </Section>
        <Section title="Address and redirect">
          {isForOneRow && (
            <>
              <Select
                size="sm"
                label="Short domain"
                aria-label={name('Short domain')}
                clearable
                placeholder={asAll}
                data={domains.filter((d) => d.isVerified).map((d) => ({ value: d.name, label: d.shown }))}
                value={settings.domain ?? null}
                onChange={(domain) => change({ domain: domain ?? undefined })}
              />
              <Select
                size="sm"
                label="Redirect"
                aria-label={name('Redirect')}
                clearable
                placeholder={asAll}
                data={redirects}
                value={settings.redirect ? String(settings.redirect) : null}
                onChange={(redirect) => change({ redirect: redirect ? Number(redirect) : undefined })}
              />
            </>
          )}
          <Select
            size="sm"
            label="Slugs"
            aria-label={name('Slugs')}
            clearable={isForOneRow}
            placeholder={asAll}
            data={slugKinds}
            value={settings.slugKind ?? (isForOneRow ? null : (given.slugKind ?? null))}
            onChange={(kind) => change({ slugKind: (kind as PostSettings['slugKind']) ?? undefined })}
          />
          <LinkOptionFields
            section="visit"
            options={options}
            unsaid={asAll}
            of={of}
            size="sm"
            onChange={setOption}
          />
          <Text size="xs" c="dimmed">
            301 and 308 tell search engines to pass on ranking; 302 and 307 do not. Every visit is counted,
            and changes to the destination apply immediately.
          </Text>
        </Section>
        <Section title="Where it leads">
          <RoutesField
            of={of}
            routes={settings.routes}
            given={isForOneRow ? given.routes : undefined}
            destination={destination}
            onChange={(routes) => change({ routes })}
          />
        </Section>
        <Section title="Pixels and time">
          <PixelsField
            size="sm"
            aria-label={name('Pixels')}
            description={
              isForOneRow
                ? 'In addition to those for all rows'
                : 'In addition to those of the campaign and channels'
            }
            value={settings.pixels ?? []}
            onChange={(ids) => change({ pixels: ids.length > 0 ? ids : undefined })}
          />
          <SpanFields
            of={of}
            opensAt={settings.opensAt ?? ''}
            endsAt={settings.endsAt ?? ''}
            onOpensAt={(opensAt) => change({ opensAt: opensAt || undefined })}
            onEndsAt={(endsAt) => change({ endsAt: endsAt || undefined })}
          />
        </Section>
        <Section title="Search engines and HTML">
          <LinkOptionFields
            section="page"
            options={options}
            given={given.options ?? {}}
            unsaid={asAll}
            of={of}
            size="sm"
            onChange={setOption}
          />
        </Section>
      </div>
      <Button size="compact-sm" variant="subtle" onClick={onClose}>
        Close options
      </Button>
    </div>
  )
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section>
      <h3 className={classes.title}>{title}</h3>
      <div className={classes.fields}>{children}</div>
    </section>
  )
}

/** Without settings that were cleared. */
function pruned(settings: PostSettings): PostSettings {
  const options = Object.fromEntries(
    Object.entries(settings.options ?? {}).filter(([, value]) => value != null && value !== ''),
  )
  const kept = Object.fromEntries(
    Object.entries(settings).filter(([key, value]) => key !== 'options' && value !== undefined),
  )
  return Object.keys(options).length > 0 ? { ...kept, options } : kept
}
