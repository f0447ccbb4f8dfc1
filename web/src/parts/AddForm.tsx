import { Alert, Group } from '@mantine/core'
import type { FormEventHandler, ReactNode } from 'react'
import { wordsOf } from '../api/client'

/** One line of fields that adds an entry to the list above it. */
export function AddForm(props: {
  error: Error | null
  onSubmit: FormEventHandler<HTMLFormElement>
  children: ReactNode
}) {
  return (
    <form onSubmit={props.onSubmit}>
      <Group mt="md" align="end" gap="sm">
        {props.children}
      </Group>
      {props.error && (
        <Alert role="alert" variant="default" mt="sm" title="Not added">
          {wordsOf(props.error)}
        </Alert>
      )}
    </form>
  )
}
