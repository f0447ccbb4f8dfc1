import { useRef, type KeyboardEvent, type PointerEvent } from 'react'
import classes from './SplitBar.module.css'
import { shifted, type PageValues } from './split'

interface Props {
  pages: PageValues[]
  onChange: (pages: PageValues[]) => void
}

const step: Record<string, number> = {
  ArrowLeft: -1,
  ArrowDown: -1,
  ArrowRight: 1,
  ArrowUp: 1,
  PageDown: -10,
  PageUp: 10,
}

/** The shares of a split as a bar; a border between two is dragged, or moved by arrow keys. */
export function SplitBar({ pages, onChange }: Props) {
  const bar = useRef<HTMLDivElement>(null)
  const move = (border: number, by: number) => onChange(shifted(pages, border, by))
  const onKeyDown = (border: number) => (event: KeyboardEvent) => {
    const by = step[event.key]
    if (by === undefined) return
    event.preventDefault()
    move(border, by)
  }
  const onPointerMove = (border: number) => (event: PointerEvent<HTMLDivElement>) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId) || !bar.current) return
    const { left, width } = bar.current.getBoundingClientRect()
    const before = pages.slice(0, border + 1).reduce((sum, page) => sum + page.weight, 0)
    move(border, Math.round(((event.clientX - left) / width) * 100) - before)
  }
  return (
    <div ref={bar} className={classes.bar}>
      {pages.map((page, place) => (
        <div key={place} className={classes.part} style={{ width: `${page.weight}%` }}>
          {place < pages.length - 1 && (
            <div
              role="slider"
              tabIndex={0}
              className={classes.border}
              aria-label={`Border between page ${place + 1} and page ${place + 2}`}
              aria-valuemin={0}
              aria-valuemax={page.weight + pages[place + 1]!.weight}
              aria-valuenow={page.weight}
              aria-valuetext={`${page.weight}% and ${pages[place + 1]!.weight}%`}
              onKeyDown={onKeyDown(place)}
              onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
              onPointerMove={onPointerMove(place)}
            />
          )}
        </div>
      ))}
    </div>
  )
}
