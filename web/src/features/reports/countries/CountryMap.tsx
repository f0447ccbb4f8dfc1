import { count, percent } from '../../../parts/format/numbers'
import classes from './Countries.module.css'
import { countryShapes, isDrawn, mapSize } from './countryShapes'
import { depthOf } from '../compare/depth'
import type { BreakdownRow } from '../question/question'

interface Props {
  /** By country. */
  rows: readonly BreakdownRow[]
  /** Opens a country's clicks; countries can't be clicked where left out. */
  onOpen?: (country: BreakdownRow) => void
}

/** Countries, the stronger in colour the more clicks came from them. Whoever doesn't see it finds the same in the table that stands with it. */
export function CountryMap({ rows, onOpen }: Props) {
  const clicked = rows.filter((row) => row.clicks > 0)
  const most = Math.max(0, ...clicked.map((row) => row.clicks))
  const byCode = new Map(clicked.map((row) => [row.key, row]))
  const elsewhere = clicked.filter((row) => !isDrawn(row.key))
  return (
    <figure className={classes.map}>
      <svg viewBox={`0 0 ${mapSize.width} ${mapSize.height}`} aria-hidden>
        {countryShapes.map(({ code, path }, place) => {
          const row = code && byCode.get(code)
          if (!row) return <path key={place} d={path} className={classes.land} />
          return (
            <path
              key={place}
              d={path}
              className={classes.country}
              style={{ '--depth': depthOf(row.clicks, most) } as React.CSSProperties}
              data-opens={onOpen ? true : undefined}
              onClick={onOpen && (() => onOpen(row))}
            >
              <title>{`${row.label}: ${count(row.clicks)}, ${percent(row.share)}`}</title>
            </path>
          )
        })}
      </svg>
      <figcaption>
        The stronger the colour, the more clicks.
        {elsewhere.length > 0 && ` Not on the map: ${named(elsewhere)}.`}
      </figcaption>
    </figure>
  )
}

const mostNamed = 5

const named = (rows: readonly BreakdownRow[]) =>
  [
    ...rows.slice(0, mostNamed).map((row) => `${row.label} ${count(row.clicks)}`),
    ...(rows.length > mostNamed ? [`${rows.length - mostNamed} more`] : []),
  ].join(', ')
