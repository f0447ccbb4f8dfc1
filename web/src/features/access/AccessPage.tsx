import { Paper, Stack, Title } from '@mantine/core'
import { useDocumentTitle } from '@mantine/hooks'
import type { ReactNode } from 'react'
import { Wordmark } from '../../shell/Wordmark'
import classes from './Access.module.css'

/** A page for whoever isn’t signed in: one sheet in the middle. */
export function AccessPage({ title, children }: { title: string; children: ReactNode }) {
  useDocumentTitle(`${title} · Cursus`)
  return (
    <main className={classes.page}>
      <Paper withBorder className={classes.sheet}>
        <Wordmark />
        <Stack>
          <Title order={1} size={24}>
            {title}
          </Title>
          {children}
        </Stack>
      </Paper>
    </main>
  )
}
