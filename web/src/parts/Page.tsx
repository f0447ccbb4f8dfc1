import { Title } from '@mantine/core'
import { useDocumentTitle } from '@mantine/hooks'
import type { ReactNode } from 'react'
import classes from './Page.module.css'

/** A view: its heading, what can be done beside it, and its content. */
export function Page({
  title,
  beside,
  children,
}: {
  title: string
  beside?: ReactNode
  children: ReactNode
}) {
  useDocumentTitle(`${title} · Cursus`)
  return (
    <div className={classes.page}>
      <div className={classes.head}>
        <Title order={1} size={27} lh={1.3}>
          {title}
        </Title>
        {beside}
      </div>
      {children}
    </div>
  )
}
