import { Select } from '@mantine/core'
import classes from './Batch.module.css'
import { listFields, type Batch, type ListField } from './batches'

interface Props {
  batch: Batch
  columns: ReadonlyArray<ListField | null>
  onChange: (columns: Array<ListField | null>) => void
}

/** The list's columns with what each is taken for and its first cells. */
export function ColumnsTable({ batch, columns, onChange }: Props) {
  return (
    <div className={classes.leaf}>
      <table className={classes.columns}>
        <thead>
          <tr>
            <th scope="col">Column</th>
            <th scope="col">is the</th>
            <th scope="col">First lines</th>
          </tr>
        </thead>
        <tbody>
          {batch.columns.map((column, i) => (
            <tr key={i}>
              <th scope="row">{column.name}</th>
              <td>
                <Select
                  aria-label={`${column.name} is the`}
                  size="sm"
                  clearable
                  searchable
                  placeholder="ignored"
                  data={[...listFields]}
                  value={columns[i] ?? null}
                  onChange={(field) => onChange(columns.map((c, place) => (place === i ? field : c)))}
                />
              </td>
              <td className={classes.samples} title={column.samples.join('\n')}>
                {column.samples.join(' · ')}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
