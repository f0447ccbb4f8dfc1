import { Text } from '@mantine/core'
import type { ReactNode } from 'react'
import classes from './Sheet.module.css'

/** A plain table on a white leaf, with a line above that says what it is for, unless something else does. */
export function Sheet(props: { about?: string; columns: string[]; children: ReactNode }) {
  return (
    <>
      {props.about && (
        <Text c="dimmed" mb="sm" maw={720}>
          {props.about}
        </Text>
      )}
      <div className={classes.leaf}>
        <table className={classes.table}>
          <thead>
            <tr>
              {props.columns.map((column) =>
                column === '' ? (
                  <td key={column} />
                ) : (
                  <th key={column} scope="col">
                    {column}
                  </th>
                ),
              )}
            </tr>
          </thead>
          <tbody>{props.children}</tbody>
        </table>
      </div>
    </>
  )
}
