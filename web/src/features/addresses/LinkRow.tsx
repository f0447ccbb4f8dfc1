import { VisuallyHidden } from '@mantine/core'
import { Link as RouterLink } from '@tanstack/react-router'
import type { KeyboardEvent } from 'react'
import type { Channel } from '../../api/vocabulary'
import { count } from '../../parts/numbers'
import { Signet } from '../../parts/Signet'
import { TagPills } from '../../parts/TagPill'
import { useCodeKey } from '../codes/useCodeKey'
import type { Link } from './links'
import classes from './LinksPage.module.css'

interface Props {
  link: Link
  channel: Channel | undefined
  showTitle: boolean
}

/** One link of the list. Arrow keys walk through the rows, Enter opens the sheet, q the QR code. */
export function LinkRow({ link, channel, showTitle }: Props) {
  const onKey = useCodeKey(link.id)
  const under = [showTitle ? link.title : undefined, channel?.name, link.variant].filter(Boolean).join(' · ')
  return (
    <li>
      <RouterLink
        to="/links/$linkId"
        params={{ linkId: link.id }}
        search={(search) => search}
        className={classes.row}
        activeProps={{ 'aria-current': 'true' }}
        activeOptions={{ includeSearch: false }}
        resetScroll={false}
        onKeyDown={(event) => {
          walk(event)
          onKey(event)
        }}
        aria-keyshortcuts="q"
        data-link-row
      >
        <Signet channel={channel} />
        <span className={classes.names}>
          <span className={classes.short}>{link.shortUrl.replace(/^https?:\/\//, '')}</span>
          <span className={classes.under}>{under}</span>
        </span>
        <span className={classes.tags}>
          <TagPills names={link.tags} />
        </span>
        <span className={classes.clicks}>
          {count(link.clicks)}
          <VisuallyHidden> clicks</VisuallyHidden>
        </span>
      </RouterLink>
    </li>
  )
}

function walk(event: KeyboardEvent<HTMLAnchorElement>) {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (!step) return
  event.preventDefault()
  const rows = [...document.querySelectorAll<HTMLAnchorElement>('[data-link-row]')]
  rows[rows.indexOf(event.currentTarget) + step]?.focus()
}
