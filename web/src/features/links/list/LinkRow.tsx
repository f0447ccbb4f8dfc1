import { Checkbox } from '@mantine/core'
import { Link as RouterLink } from '@tanstack/react-router'
import type { DragEvent, KeyboardEvent } from 'react'
import type { Channel } from '../../../api/vocabulary'
import { channelPaint } from '../../../parts/channelPaint'
import { addressOf, hostOf } from '../../../parts/format/addressText'
import { count, dayOf } from '../../../parts/format/numbers'
import { Signet } from '../../../parts/Signet'
import { TagPills } from '../../../parts/TagPill'
import { useCodeKey } from '../../codes/useCodeKey'
import type { Column } from './columns'
import type { Link } from '../links'
import classes from './LinksTable.module.css'
import { Spark } from './Spark'
import { useBoundText } from './TimeNote'
import type { SelectedLinks } from './useSelection'
import { draggedLinks } from './FolderStrip'

interface Props {
  link: Link
  channel: Channel | undefined
  shown: Column[]
  showTitle: boolean
  isPicked: boolean
  onPick: (isPicked: boolean) => void
  picked: SelectedLinks
}

/** One link of the table. Arrow keys walk through the rows, Enter opens the sheet, x picks, a goes to what can be done with the picked, q shows the QR code; a row can be dragged to a folder. */
export function LinkRow({ link, channel, shown, showTitle, isPicked, onPick, picked }: Props) {
  const onKey = useCodeKey(link.id)
  const bound = useBoundText(link)
  const under = [showTitle ? link.title : undefined, channel?.name, link.variant].filter(Boolean).join(' · ')
  const cells: Record<Column, React.ReactNode> = {
    destination: <span title={link.destination}>{addressOf(link.destination)}</span>,
    campaign: link.post?.campaign ?? link.campaign,
    tags: <TagPills names={link.tags} />,
    course: <Spark course={link.course ?? []} color={channelPaint(channel)} />,
    lastClick: link.lastClickAt && dayOf(link.lastClickAt),
    state: (
      <span style={{ color: link.state === 'dead' ? 'var(--bad)' : undefined }}>
        {link.state.replace('-', ' ')}
        {bound && <small>{bound}</small>}
        {link.isRouted && <small>by rules</small>}
      </span>
    ),
  }
  return (
    <tr
      className={classes.row}
      data-picked={isPicked || undefined}
      draggable
      onDragStart={(event: DragEvent) => {
        // Whoever drags one of the picked rows drags them all.
        if (!isPicked) picked.clear()
        event.dataTransfer.setData(draggedLinks, isPicked ? '' : link.id)
        event.dataTransfer.setData('text/uri-list', link.shortUrl)
        event.dataTransfer.effectAllowed = 'copyMove'
      }}
    >
      <td className={classes.pick}>
        <Checkbox
          size="xs"
          aria-label={`Select ${addressOf(link.shortUrl)}`}
          checked={isPicked}
          onChange={(event) => onPick(event.currentTarget.checked)}
        />
      </td>
      <td className={classes.link}>
        <RouterLink
          to="/links/$linkId"
          params={{ linkId: link.id }}
          search={(search) => search}
          className={classes.open}
          activeProps={{ 'aria-current': 'true' }}
          activeOptions={{ includeSearch: false }}
          resetScroll={false}
          draggable={false}
          onKeyDown={(event) => {
            walk(event)
            onKey(event)
            if (event.key === 'x') onPick(!isPicked)
            if (event.key === 'a') toActions(event)
          }}
          aria-keyshortcuts="q x a"
          data-link-row
        >
          <Signet channel={channel} />
          <span className={classes.names}>
            <span className={classes.short}>
              <span className={classes.host}>{hostOf(link.shortUrl)}</span>/{link.slug}
            </span>
            <span className={classes.under}>{under}</span>
          </span>
        </RouterLink>
      </td>
      {shown.map((column) => (
        <td key={column} className={classes[column]}>
          {cells[column]}
        </td>
      ))}
      <td className={classes.clicks}>
        {count(link.clicks)}
        {link.broughtAlong !== null && (
          <small title="Imported: counted elsewhere, not part of any report">
            +{count(link.broughtAlong)}
          </small>
        )}
      </td>
    </tr>
  )
}

/** Past the rows, of which there may be many, to the bar below them. */
function toActions(event: KeyboardEvent<HTMLAnchorElement>) {
  event.preventDefault()
  document.querySelector<HTMLButtonElement>('[data-many-actions] button')?.focus()
}

function walk(event: KeyboardEvent<HTMLAnchorElement>) {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (!step) return
  event.preventDefault()
  const rows = [...document.querySelectorAll<HTMLAnchorElement>('[data-link-row]')]
  rows[rows.indexOf(event.currentTarget) + step]?.focus()
}
