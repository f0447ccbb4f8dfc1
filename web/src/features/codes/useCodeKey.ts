import type { KeyboardEvent } from 'react'
import { useOpenCode } from './useOpenCode'

/** Opens a link's QR code by the key q, as long as nothing is being typed. */
export function useCodeKey(link: string) {
  const open = useOpenCode()
  return (event: KeyboardEvent) => {
    const isTyping = event.target instanceof HTMLElement && event.target.matches('input, textarea, select')
    if (event.key === 'q' && !isTyping && !event.ctrlKey && !event.metaKey && !event.altKey) {
      event.preventDefault()
      open(link)
    }
  }
}
