import { Button, Group, Kbd, Select, Text } from '@mantine/core'
import { notifications } from '@mantine/notifications'
import { IconAdjustmentsHorizontal } from '@tabler/icons-react'
import { useMutation } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import type { Domain } from '../../../api/vocabulary'
import { redirects } from '../../../parts/format/redirects'
import { TagsField } from '../../../parts/TagPill'
import { countSettings, isWorthKeeping, ticked, type Draft, type PostSettings } from './draft'
import { OptionsPanel } from './OptionsLater'
import classes from './SendSheet.module.css'
import type { usePreview } from './usePreview'

interface Props {
  draft: Draft
  domains: Domain[]
  /** What rows have where nothing is said. */
  usual: PostSettings
  preview: ReturnType<typeof usePreview>['rows']
  isSaving: boolean
  onChange: (all: PostSettings) => void
  onKeep: () => Promise<void>
}

/** The foot of the sheet: what holds for all rows, and saving. */
export function SendBar({ draft, domains, usual, preview, isSaving, onChange, onKeep }: Props) {
  const { all } = draft
  const [isOpen, setIsOpen] = useState(false)
  const optionsButton = useRef<HTMLButtonElement>(null)
  const links = ticked(draft).length
  const verified = domains.filter((d) => d.isVerified)
  const standard = verified.find((d) => d.isDefault) ?? verified[0]
  const effective = all.redirect ?? usual.redirect
  const longest = longestSaving(draft, preview)
  const hidden = countSettings({ ...all, tags: undefined, domain: undefined, redirect: undefined })
  const keep = useMutation({
    mutationFn: onKeep,
    onSuccess: () => notifications.show({ message: 'Draft saved', autoClose: 2000 }),
    onError: (error) => notifications.show({ color: 'red', message: error.message }),
  })
  return (
    <>
      {isOpen && (
        <div className={classes.options}>
          <OptionsPanel
            of="all rows"
            settings={all}
            given={usual}
            destination={draft.destination}
            domains={domains}
            isForOneRow={false}
            onChange={onChange}
            onClose={() => {
              setIsOpen(false)
              optionsButton.current?.focus()
            }}
          />
        </div>
      )}
      <div className={classes.bottom}>
        <Group gap={8} wrap="wrap" align="center">
          <Text size="sm" c="dimmed">
            All rows:
          </Text>
          <TagsField
            aria-label="Tags"
            data-after-slugs
            value={all.tags ?? []}
            onChange={(names) => onChange({ ...all, tags: names.length > 0 ? names : undefined })}
            w={200}
            size="sm"
          />
          {verified.length > 1 && (
            <Select
              aria-label="Short domain"
              size="sm"
              w={160}
              data={verified.map((d) => ({ value: d.name, label: d.shown }))}
              value={all.domain ?? standard?.name ?? null}
              onChange={(domain) => onChange({ ...all, domain: domain ?? undefined })}
            />
          )}
          <Select
            aria-label="Redirect type"
            size="sm"
            w={150}
            comboboxProps={{ width: 240, position: 'bottom-start' }}
            data={redirects}
            value={effective === undefined ? null : String(effective)}
            onChange={(redirect) => onChange({ ...all, redirect: Number(redirect) })}
          />
          <Button
            ref={optionsButton}
            size="sm"
            variant={hidden > 0 || isOpen ? 'light' : 'default'}
            aria-expanded={isOpen}
            leftSection={<IconAdjustmentsHorizontal size={16} aria-hidden />}
            onClick={() => setIsOpen(!isOpen)}
          >
            {hidden > 0 ? `Options · ${hidden} set` : 'Options'}
          </Button>
        </Group>
        <Group gap={12} className={classes.save}>
          {longest && (
            <Text size="sm" c="dimmed">
              {longest.from} → {longest.to} characters
            </Text>
          )}
          <Button
            variant="default"
            size="md"
            disabled={!isWorthKeeping(draft)}
            loading={keep.isPending}
            onClick={() => keep.mutate()}
          >
            Save draft
          </Button>
          <Button
            type="submit"
            size="md"
            disabled={links === 0}
            loading={isSaving}
            rightSection={
              <Kbd size="xs" className={classes.kbd}>
                Ctrl ↵
              </Kbd>
            }
          >
            {links === 1 ? 'Save one link' : `Save ${links} links`}
          </Button>
        </Group>
      </div>
    </>
  )
}

/** How many characters the longest address becomes how few. */
function longestSaving(draft: Draft, preview: Props['preview']) {
  const rows = ticked(draft).flatMap((row) => preview.get(row.id) ?? [])
  const longest = rows.toSorted((a, b) => (b.finalUrl?.length ?? 0) - (a.finalUrl?.length ?? 0))[0]
  return longest?.finalUrl && longest.shortUrl
    ? { from: longest.finalUrl.length, to: longest.shortUrl.length }
    : undefined
}
