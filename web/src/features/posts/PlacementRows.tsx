import { ActionIcon, Checkbox, Text, TextInput, Tooltip, UnstyledButton, VisuallyHidden } from '@mantine/core'
import { Link } from '@tanstack/react-router'
import { IconCheck, IconPlus, IconX } from '@tabler/icons-react'
import type { KeyboardEvent } from 'react'
import type { Channel, Domain } from '../../api/vocabulary'
import { day } from '../../parts/numbers'
import { Signet } from '../../parts/Signet'
import { agreedList } from './AgreedWords'
import type { Row, Wishes } from './draft'
import classes from './PlacementRows.module.css'
import { RowOptions } from './RowOptions'
import type { usePreview } from './usePreview'

interface Props {
  rows: Row[]
  channels: Channel[]
  domains: Domain[]
  /** What is wished for all rows. */
  all: Wishes
  preview: ReturnType<typeof usePreview>['rows']
  domain: string
  onChange: (id: string, part: Partial<Row>) => void
  onAddVariant: (row: Row) => void
  onRemove: (row: Row) => void
}

/** The table of the Send sheet: one row for each channel, with the finished address growing as one types. */
export function PlacementRows(props: Props) {
  const { rows, channels, preview, onChange, onAddVariant, onRemove } = props
  const byKey = new Map(channels.map((c) => [c.key, c]))
  const isRepeat = (row: Row) => rows.find((r) => r.channel === row.channel) !== row
  return (
    <div className={classes.leaf}>
      <table className={classes.table}>
        <thead>
          <tr>
            <th scope="col" className={classes.tick}>
              <VisuallyHidden>Send there</VisuallyHidden>
            </th>
            <th scope="col">Channel</th>
            <th scope="col">Source</th>
            <th scope="col">Medium</th>
            <th scope="col">Variant</th>
            <th scope="col">Short link</th>
            <th scope="col">Leads to</th>
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
                domain={row.own.domain ?? props.domain}
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
  domain: string
  domains: Domain[]
  all: Wishes
  onChange: (part: Partial<Row>) => void
  onAddVariant: () => void
  onRemove?: () => void
}

function PlacementRow(props: RowProps) {
  const { row, channel, preview, domain, onChange, onAddVariant, onRemove } = props
  const isRandom = (row.own.slugKind ?? props.all.slugKind) === 'random'
  const slugError = preview?.errors('slug')
  const wordError = preview?.errors('source') ?? preview?.errors('medium') ?? preview?.errors('variant')
  const name = onRemove ? `${channel.name}, second variant` : channel.name
  return (
    <tr className={row.isOn ? undefined : classes.off}>
      <td className={classes.tick}>
        <Checkbox
          aria-label={`Send to ${name}`}
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
            <Tooltip label={`${channel.name} a second time`}>
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
        {row.isOn && (
          <>
            <TextInput
              aria-label={`Slug for ${name}`}
              aria-describedby={`${row.id}-note`}
              size="sm"
              leftSection={<span className={classes.domain}>{domain}/</span>}
              leftSectionWidth={domain.length * 7.2 + 14}
              leftSectionPointerEvents="none"
              classNames={{ input: classes.slug }}
              placeholder={preview?.slug ?? (isRandom ? '······' : 'made for you')}
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
                  Its link was deleted on {day(preview.blocked.deletedAt.slice(0, 10))}; the slug is kept for
                  it until {day(preview.blocked.until.slice(0, 10))}.{' '}
                  <Link to="/links/$linkId" params={{ linkId: preview.blocked.linkId }} search={{}}>
                    Look at it
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
        {row.isOn && preview?.finalUrl && <FinalAddress url={preview.finalUrl} />}
      </td>
      <td className={classes.more}>
        {row.isOn && (
          <RowOptions
            name={name}
            row={row}
            all={props.all}
            domains={props.domains}
            onChange={(part) => onChange(part)}
          />
        )}
      </td>
    </tr>
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

/** The end of the finished address, where the tags are; all of it on hover and for screen readers. */
function FinalAddress({ url }: { url: string }) {
  const mark = url.indexOf('?')
  const path = mark < 0 ? url : url.slice(0, mark)
  return (
    <span className={classes.address} title={url}>
      …/{path.split('/').at(-1)}
      {mark >= 0 && <b>{url.slice(mark)}</b>}
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
