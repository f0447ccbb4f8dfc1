import { Button } from '@mantine/core'
import { useState } from 'react'
import type { Schema } from '../../api/client'
import { count } from '../../parts/format/numbers'
import classes from './Batch.module.css'
import { lineRanges } from './lineRanges'

interface Props {
  title: string
  remarks: Array<Schema['LineRemark']>
  isBad?: boolean
}

const atFirst = 5

/** What is said of lines, each text once with all the lines that it is about. */
export function LineRemarks({ title, remarks, isBad = false }: Props) {
  const [isAll, setIsAll] = useState(false)
  if (remarks.length === 0) return null
  const shown = isAll ? remarks : remarks.slice(0, atFirst)
  return (
    <section aria-label={title} className={classes.remarks} data-bad={isBad || undefined}>
      <h2>{title}</h2>
      <ul>
        {shown.map((remark) => (
          <li key={remark.field + remark.text}>
            <b>
              {remark.lines.length === 1 ? 'Line' : 'Lines'} {lineRanges(remark.lines)}
            </b>{' '}
            {remark.text}
          </li>
        ))}
      </ul>
      {remarks.length > shown.length && (
        <Button variant="subtle" size="compact-sm" onClick={() => setIsAll(true)}>
          Show all {count(remarks.length)}
        </Button>
      )}
    </section>
  )
}
