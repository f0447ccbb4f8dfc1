import { notifications } from '@mantine/notifications'
import { wordsOf } from '../api/client'

/** Tells in passing that something failed, and why, where no place of the view is its own. */
export const tellFailure = (error: Error) =>
  notifications.show({ color: 'red', message: wordsOf(error), autoClose: 8000 })
