import { Checkbox, UnstyledButton } from '@mantine/core'
import { useMediaQuery } from '@mantine/hooks'
import { IconArrowDown, IconArrowUp } from '@tabler/icons-react'
import { useWindowVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useLayoutEffect, useRef, useState } from 'react'
import type { Channel } from '../../../api/vocabulary'
import { columns, hiddenOf, sortOf, turned, type Column } from './columns'
import { GroupHeading } from './GroupHeading'
import { linesOf } from './groups'
import { LinkRow } from './LinkRow'
import type { Link } from '../links'
import type { LinksSearch } from '../filter/linksSearch'
import classes from './LinksTable.module.css'
import type { SelectedLinks } from './useSelection'

interface Props {
  links: Link[]
  total: number
  search: LinksSearch
  channels: ReadonlyMap<string, Channel>
  selection: SelectedLinks
  /** Whether a sheet is open beside it. */
  isBeside: boolean
  onSort: (sort: string) => void
  /** Asks for more links, when the last known ones come into sight. */
  onEnd: () => void
}

const rowHeight = 47
const headingHeight = 44

/** All links as a table. Only the rows in sight are drawn, so that tens of thousands stay smooth. */
export function LinksTable({ links, total, search, channels, selection, isBeside, onSort, onEnd }: Props) {
  const isFlat = search.view === 'flat'
  const lines = linesOf(links, isFlat)
  const hidden = hiddenOf(search.without)
  const isSmall = useMediaQuery('(max-width: 62em)')
  const isPhone = useMediaQuery('(max-width: 36em)')
  // On a phone, and beside an open sheet, there is room for what tells links apart, and their clicks.
  const room = (Object.keys(columns) as Column[]).filter(
    (column) => !(isBeside || isSmall) || (column === 'course' && !isPhone),
  )
  const shown = room.filter((column) => !hidden.includes(column) && (isFlat || column !== 'campaign'))
  const body = useRef<HTMLTableSectionElement>(null)
  const [top, setTop] = useState(0)
  useLayoutEffect(
    () => setTop((body.current?.getBoundingClientRect().top ?? 0) + window.scrollY),
    [lines.length],
  )
  const rows = useWindowVirtualizer({
    count: lines.length,
    estimateSize: (i) => (lines[i]!.kind === 'heading' ? headingHeight : rowHeight),
    getItemKey: (i) => lines[i]!.key,
    overscan: 12,
    scrollMargin: top,
  })
  const drawn = rows.getVirtualItems()
  const last = drawn.at(-1)
  const isAtEnd = last !== undefined && last.index >= lines.length - 30
  useEffect(() => {
    if (isAtEnd) onEnd()
  }, [isAtEnd, onEnd, lines.length])
  const before = drawn.length > 0 ? drawn[0]!.start - rows.options.scrollMargin : 0
  const after = last ? rows.getTotalSize() - (last.end - rows.options.scrollMargin) : 0
  const wide = shown.length + 3
  const isWhole = selection.count > 0 && selection.count === total

  const heading = (name: 'link' | 'clicks' | Column, label: string) => {
    const order = sortOf[name]
    const isBy = order !== undefined && (search.sort === order || search.sort === `-${order}`)
    const isTurned = search.sort?.startsWith('-') ?? false
    // Figures begin with the most, words with A.
    const isUp = isBy && isTurned === (name === 'clicks' || name === 'course' || name === 'lastClick')
    return (
      <th
        key={name}
        scope="col"
        className={classes[name]}
        aria-sort={isBy ? (isUp ? 'ascending' : 'descending') : undefined}
      >
        {order ? (
          <UnstyledButton className={classes.order} onClick={() => onSort(turned(search.sort, order))}>
            {label}
            {isBy && (isUp ? <IconArrowUp size={12} aria-hidden /> : <IconArrowDown size={12} aria-hidden />)}
          </UnstyledButton>
        ) : (
          label
        )}
      </th>
    )
  }

  return (
    <table className={classes.table} aria-rowcount={total} aria-label="Links">
      <thead>
        <tr>
          <td className={classes.pick}>
            <Checkbox
              size="xs"
              aria-label="Select all matching links"
              checked={isWhole}
              indeterminate={selection.count > 0 && !isWhole}
              onChange={() => (isWhole ? selection.clear() : selection.pickAll())}
            />
          </td>
          {heading('link', 'Link')}
          {shown.map((column) => heading(column, columns[column]))}
          {heading('clicks', 'Clicks')}
        </tr>
      </thead>
      <tbody ref={body}>
        {before > 0 && <Gap height={before} wide={wide} />}
        {drawn.map(({ index }) => {
          const line = lines[index]!
          return line.kind === 'heading' ? (
            <GroupHeading
              key={line.key}
              post={line.post}
              links={line.links}
              wide={wide}
              selection={selection}
            />
          ) : (
            <LinkRow
              key={line.key}
              link={line.link}
              channel={channels.get(line.link.channel ?? '')}
              shown={shown}
              showTitle={!line.isUnderPost}
              isPicked={selection.has(line.link.id)}
              onPick={(isPicked) => selection.pick([line.link.id], isPicked)}
              picked={selection}
            />
          )
        })}
        {after > 0 && <Gap height={after} wide={wide} />}
      </tbody>
    </table>
  )
}

/** Stands for rows out of sight. */
const Gap = ({ height, wide }: { height: number; wide: number }) => (
  <tr aria-hidden>
    <td colSpan={wide} style={{ height, padding: 0, border: 0 }} />
  </tr>
)
