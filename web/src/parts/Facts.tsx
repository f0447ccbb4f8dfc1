import type { ReactNode } from 'react'
import classes from './Facts.module.css'

/** What is known of a thing, line by line. */
export const Facts = ({ children }: { children: ReactNode }) => <dl className={classes.facts}>{children}</dl>

/** One line of the list; nothing where there is nothing to tell. */
export function Fact({ label, children }: { label: string; children: ReactNode }) {
  const isEmpty = Array.isArray(children) ? children.length === 0 : !children
  return isEmpty ? null : (
    <>
      <dt>{label}</dt>
      <dd>{children}</dd>
    </>
  )
}
