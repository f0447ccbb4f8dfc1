import type { UseFormReturnType } from '@mantine/form'
import { wordsOf } from '../api/client'

/** Why a form wasn’t saved, where none of its fields says so. */
export function FormError<Values>({ error, form }: { error: Error | null; form: UseFormReturnType<Values> }) {
  return error && Object.keys(form.errors).length === 0 ? <div role="alert">{wordsOf(error)}</div> : null
}
