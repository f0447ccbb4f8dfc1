import { Text, TextInput, UnstyledButton } from '@mantine/core'
import { IconCheck } from '@tabler/icons-react'
import { Link } from '@tanstack/react-router'
import type { KeyboardEvent } from 'react'
import { day } from '../../../../parts/format/numbers'
import type { Row } from '../draft'
import classes from './PlacementRows.module.css'
import type { RowPreview } from '../usePreview'

interface Props {
  row: Row
  /** What the row is called. */
  name: string
  /** Shown before the slug; empty where all rows have the same. */
  domain: string
  isRandom: boolean
  preview: RowPreview | undefined
  onChange: (part: Partial<Row>) => void
}

/** The slug of a row, with what is wrong with it or with the row's words, and what could be had instead. */
export function SlugField({ row, name, domain, isRandom, preview, onChange }: Props) {
  const slugError = preview?.errors('slug')
  return (
    <>
      <TextInput
        aria-label={`Slug for ${name}`}
        aria-describedby={`${row.id}-note`}
        size="sm"
        leftSection={<span className={classes.domain}>{domain}/</span>}
        leftSectionWidth={domain.length * 7.2 + 22}
        leftSectionPointerEvents="none"
        classNames={{ input: classes.slug }}
        placeholder={preview?.slug ?? (isRandom ? '······' : 'automatic')}
        value={row.slug}
        onChange={(event) => onChange({ slug: event.currentTarget.value })}
        onKeyDown={onEnterGoDown}
        error={Boolean(slugError) || preview?.isTaken}
        rightSection={
          preview?.isTaken ? (
            <Text size="xs" c="var(--bad)">
              taken
            </Text>
          ) : preview?.slug ? (
            <IconCheck size={16} color="var(--good)" aria-label="free" />
          ) : null
        }
        rightSectionWidth={preview?.isTaken ? 48 : undefined}
        data-slug
      />
      <div id={`${row.id}-note`} role="status">
        {slugError && <p className={classes.error}>{slugError}</p>}
        {preview && <Notes preview={preview} onChange={onChange} />}
      </div>
    </>
  )
}

function Notes({ preview, onChange }: { preview: RowPreview; onChange: (part: Partial<Row>) => void }) {
  const wordError = preview.errors('source') ?? preview.errors('medium') ?? preview.errors('variant')
  return (
    <>
      {wordError && <p className={classes.error}>{wordError}</p>}
      {preview.hints.map((hint) => (
        <p key={hint.field} className={classes.free}>
          {hint.field} “{hint.value}”: did you mean{' '}
          <UnstyledButton className={classes.offer} onClick={() => onChange({ [hint.field]: hint.agreed })}>
            {hint.agreed}
          </UnstyledButton>
        </p>
      ))}
      {preview.blocked && (
        <p className={classes.free}>
          Its link was deleted on {day(preview.blocked.deletedAt.slice(0, 10))}; its slug is reserved until{' '}
          {day(preview.blocked.until.slice(0, 10))}.{' '}
          <Link to="/links/$linkId" params={{ linkId: preview.blocked.linkId }} search={{}}>
            View it
          </Link>
        </p>
      )}
      {preview.isTaken && (
        <p className={classes.free}>
          Free:{' '}
          {preview.alternatives.map((slug) => (
            <UnstyledButton key={slug} className={classes.offer} onClick={() => onChange({ slug })}>
              {slug}
            </UnstyledButton>
          ))}
        </p>
      )}
    </>
  )
}

/** Enter goes to the next slug, and from the last one to the tags; only Ctrl+Enter saves. */
function onEnterGoDown(event: KeyboardEvent<HTMLInputElement>) {
  if (event.key !== 'Enter' || event.ctrlKey || event.metaKey) return
  event.preventDefault()
  const slugs = [...document.querySelectorAll<HTMLInputElement>('input[data-slug]')]
  const next = slugs[slugs.indexOf(event.currentTarget) + 1]
  ;(next ?? document.querySelector<HTMLInputElement>('input[data-after-slugs]'))?.focus()
}
