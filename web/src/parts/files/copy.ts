import { notifications } from '@mantine/notifications'

/** Puts text, and HTML beside it where given, on the clipboard, and says so. */
export async function copy(what: string, text: string, html?: string) {
  try {
    if (html !== undefined && typeof ClipboardItem !== 'undefined') {
      const item = new ClipboardItem({
        'text/plain': new Blob([text], { type: 'text/plain' }),
        'text/html': new Blob([html], { type: 'text/html' }),
      })
      await navigator.clipboard.write([item])
    } else {
      await navigator.clipboard.writeText(text)
    }
    notifications.show({ message: `${what} copied`, autoClose: 2000 })
  } catch {
    notifications.show({
      color: 'red',
      message: 'The browser didn’t allow copying. Select the text and press Ctrl+C.',
    })
  }
}
