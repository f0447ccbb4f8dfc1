import { ActionIcon, Checkbox, Text, TextInput, Tooltip, UnstyledButton, VisuallyHidden } from '@mantine/core'
import { Link } from '@tanstack/react-router'
import { IconCheck, IconPlus, IconX } from '@tabler/icons-react'
import { Fragment, useState, type KeyboardEvent } from 'react'
import type { Channel, Domain } from '../../../api/vocabulary'
import { day } from '../../../parts/format/numbers'
import { Signet } from '../../../parts/Signet'
import { agreedList } from '../AgreedWords'
import type { Row, PostSettings } from './draft'
import classes from './PlacementRows.module.css'
import { differing, type DifferingAddress } from './differing'
import { RowOptionsButton, RowOptionsPanel, TermAndContent } from './RowOptions'
import type { usePreview } from './usePreview'

interface Props {
  rows: Row[]
  channels: Channel[]
  domains: Domain[]
  /** Settings of all rows. */
  all: PostSettings
  preview: ReturnType<typeof usePreview>['rows']
  domain: string
  /** What is still needed before addresses can be shown. */
  missing: string
  onChange: (id: string, part: Partial<Row>) => void
  onAddVariant: (row: Row) => void
  onRemove: (row: Row) => void
}

/** The table of the Send sheet: one row for each channel, with the finished address growing as one types. */
export function PlacementRows(props: Props) {
  const { rows, channels, preview, onChange, onAddVariant, onRemove } = props
  const byKey = new Map(channels.map((c) => [c.key, c]))
  const isRepeat = (row: Row) => rows.find((r) => r.channel === row.channel) !== row
  const finished = rows.flatMap((row) => {
    const url = row.isOn && preview.get(row.id)?.finalUrl
    return url ? [{ id: row.id, url }] : []
  })
  const shown = differing(finished.map(({ url }) => url))
  const addresses = new Map(finished.map(({ id }, i) => [id, shown[i]!]))
  const domains = new Set(rows.filter((row) => row.isOn).map((row) => row.own.domain ?? props.domain))
  const isOneDomain = domains.size <= 1
  return (
    <div className={classes.leaf}>
      <table className={classes.table}>
        <thead>
          <tr>
            <th scope="col" className={classes.tick}>
              <VisuallyHidden>Include</VisuallyHidden>
            </th>
            <th scope="col">Channel</th>
            <th scope="col">Source</th>
            <th scope="col">Medium</th>
            <th scope="col">Variant</th>
            <th scope="col">
              Short link{isOneDomain && props.domain && ` on ${[...domains][0] ?? props.domain}`}
            </th>
            <th scope="col">Added to the address</th>
            <th scope="col" className={classes.more}>
              <VisuallyHidden>Options</VisuallyHidden>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => {
            const channel = byKey.get(row.channel)
            if (!channel) return null
            return (
              <PlacementRow
                key={row.id}
                row={row}
                channel={channel}
                preview={preview.get(row.id)}
                domain={isOneDomain ? '' : (row.own.domain ?? props.domain)}
                address={addresses.get(row.id)}
                missing={props.missing}
                domains={props.domains}
                all={props.all}
                onChange={(part) => onChange(row.id, part)}
                onAddVariant={() => onAddVariant(row)}
                onRemove={isRepeat(row) ? () => onRemove(row) : undefined}
              />
            )
          })}
        </tbody>
      </table>
    </div>
  )
}

interface RowProps {
  row: Row
  channel: Channel
  preview: ReturnType<Props['preview']['get']>
  /** Shown before the slug; empty where all rows have the same. */
  domain: string
  /** What is still needed before the address can be shown. */
  missing: string
  address: DifferingAddress | undefined
  domains: Domain[]
  all: PostSettings
  onChange: (part: Partial<Row>) => void
  onAddVariant: () => void
  onRemove?: () => void
}

function PlacementRow(props: RowProps) {
  const { row, channel, preview, domain, address, onChange, onAddVariant, onRemove } = props
  const [isOpen, setIsOpen] = useState(false)
  const close = () => {
    setIsOpen(false)
    document.getElementById(`${row.id}-options`)?.focus()
  }
  const hasWords = row.term.trim() !== '' || row.content.trim() !== ''
  const isRandom = (row.own.slugKind ?? props.all.slugKind) === 'random'
  const slugError = preview?.errors('slug')
  const wordError = preview?.errors('source') ?? preview?.errors('medium') ?? preview?.errors('variant')
  const name = onRemove ? `${channel.name}, second variant` : channel.name
  return (
    <>
      <tr className={row.isOn ? undefined : classes.off}>
        <td className={classes.tick}>
          <Checkbox
            aria-label={`Include ${name}`}
            checked={row.isOn}
            onChange={(event) => onChange({ isOn: event.currentTarget.checked })}
          />
        </td>
        <td>
          <label className={classes.channel}>
            <Signet channel={channel} />
            <span>{channel.name}</span>
          </label>
        </td>
        <td>
          <Word
            label={`Source for ${name}`}
            value={row.source}
            list={agreedList('source')}
            agreed={channel.source}
            isOn={row.isOn}
            onChange={(source) => onChange({ source })}
          />
        </td>
        <td>
          <Word
            label={`Medium for ${name}`}
            value={row.medium}
            list={agreedList('medium')}
            agreed={channel.medium}
            isOn={row.isOn}
            onChange={(medium) => onChange({ medium })}
          />
        </td>
        <td>
          <div className={classes.variant}>
            <Word
              label={`Variant for ${name}`}
              value={row.variant}
              list={agreedList('content')}
              agreed="none"
              isOn={row.isOn}
              onChange={(variant) => onChange({ variant })}
            />
            {onRemove ? (
              <Tooltip label="Remove this row">
                <ActionIcon
                  variant="subtle"
                  size={26}
                  color="gray"
                  aria-label={`Remove ${name}`}
                  onClick={onRemove}
                >
                  <IconX size={14} />
                </ActionIcon>
              </Tooltip>
            ) : (
              <Tooltip label={`Add a variant for ${channel.name}`}>
                <ActionIcon
                  variant="subtle"
                  size={26}
                  color="gray"
                  aria-label={`Add a variant for ${channel.name}`}
                  onClick={onAddVariant}
                >
                  <IconPlus size={14} />
                </ActionIcon>
              </Tooltip>
            )}
          </div>
        </td>
        <td>
          {!row.isOn && <span className={classes.none}>No link. Tick to include.</span>}
          {row.isOn && (
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
                {wordError && <p className={classes.error}>{wordError}</p>}
                {preview?.hints.map((hint) => (
                  <p key={hint.field} className={classes.free}>
                    {hint.field} “{hint.value}”: did you mean{' '}
                    <UnstyledButton
                      className={classes.offer}
                      onClick={() => onChange({ [hint.field]: hint.agreed })}
                    >
                      {hint.agreed}
                    </UnstyledButton>
                  </p>
                ))}
                {preview?.blocked && (
                  <p className={classes.free}>
                    Its link was deleted on {day(preview.blocked.deletedAt.slice(0, 10))}; its slug is
                    reserved until {day(preview.blocked.until.slice(0, 10))}.{' '}
                    <Link to="/links/$linkId" params={{ linkId: preview.blocked.linkId }} search={{}}>
                      View it
                    </Link>
                  </p>
                )}
                {preview?.isTaken && (
                  <p className={classes.free}>
                    Free:{' '}
                    {preview.alternatives.map((slug) => (
                      <UnstyledButton key={slug} className={classes.offer} onClick={() => onChange({ slug })}>
                        {slug}
                      </UnstyledButton>
                    ))}
                  </p>
                )}
              </div>
            </>
          )}
        </td>
        <td className={classes.leads}>
          {row.isOn && address && <FinalAddress url={preview?.finalUrl ?? ''} address={address} />}
          {row.isOn && !address && <span className={classes.none}>{props.missing}</span>}
        </td>
        <td className={classes.more}>
          {row.isOn && (
            <RowOptionsButton name={name} row={row} isOpen={isOpen} onToggle={() => setIsOpen(!isOpen)} />
          )}
        </td>
      </tr>
      {row.isOn && (isOpen || hasWords) && (
        <tr className={classes.below}>
          <td colSpan={8}>
            {isOpen ? (
              <RowOptionsPanel
                name={name}
                row={row}
                all={props.all}
                domains={props.domains}
                onChange={onChange}
                onClose={close}
              />
            ) : (
              <div className={classes.words}>
                <TermAndContent name={name} row={row} onChange={onChange} />
              </div>
            )}
          </td>
        </tr>
      )}
    </>
  )
}

/** A word that is normally the channel's own and only shown; typing over it changes it for this row. */
function Word(props: {
  label: string
  value: string
  agreed: string
  /** Id of the list of agreed values. */
  list: string
  isOn: boolean
  onChange: (value: string) => void
}) {
  return (
    <input
      className={classes.word}
      aria-label={props.label}
      placeholder={props.agreed}
      list={props.list}
      value={props.value}
      disabled={!props.isOn}
      onChange={(event) => props.onChange(event.currentTarget.value)}
    />
  )
}

/** What tells the finished address from those of the other rows; all of it on hover and for screen readers. */
function FinalAddress({ url, address }: { url: string; address: DifferingAddress }) {
  const parts = address.parameters
  return (
    <span className={classes.address} title={url}>
      {parts.map((part, i) => (
        <Fragment key={part}>
          {i > 0 && (
            <>
              &amp;
              <wbr />
            </>
          )}
          <b>{part}</b>
        </Fragment>
      ))}
      {address.isShortened && (parts.length > 0 ? '&…' : '…')}
      {parts.length === 0 && !address.isShortened && 'nothing'}
    </span>
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
