import { Link } from '@tanstack/react-router'
import type { Schema } from '../../api/client'
import classes from './Audiences.module.css'
import { OutcomeBar } from './OutcomeBar'

/** What became of each pixel at the visits that an answer is about. */
export function PixelOutcomes({ rows }: { rows: Array<Schema['BreakdownReportRow']> }) {
  const told = rows.filter((row) => row.pixel)
  if (told.length === 0) return null
  return (
    <section aria-label="Pixel results" className={classes.leaf} style={{ marginTop: 18 }}>
      <h2>What happened to each pixel</h2>
      {told.map((row) => (
        <div key={row.key} style={{ marginTop: 14 }}>
          <Link
            to="/audiences/$pixelId"
            params={{ pixelId: row.key }}
            style={{ color: 'var(--mantine-color-anchor)', fontWeight: 600 }}
          >
            {row.label}
          </Link>
          <OutcomeBar of={row.pixel!} />
        </div>
      ))}
    </section>
  )
}
