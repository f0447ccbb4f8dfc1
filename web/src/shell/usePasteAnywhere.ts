import { useNavigate } from '@tanstack/react-router'
import { useEffect } from 'react'

/** Whether a text is one web address, as far as can be told at a glance; the server has the last word. */
export function looksLikeAddress(text: string): boolean {
  const trimmed = text.trim()
  return /^(https?:\/\/)?[^\s/@]+\.[^\s/@.]{2,}(:\d+)?([/?#]\S*)?$/i.test(trimmed) && !/\s/.test(trimmed)
}

/** A page's address pasted anywhere outside a field begins a post with it. */
export function usePasteAnywhere() {
  const navigate = useNavigate()
  useEffect(() => {
    function onPaste(event: ClipboardEvent) {
      const target = event.target as HTMLElement | null
      if (target?.closest('input, textarea, [contenteditable]')) return
      const text = event.clipboardData?.getData('text/plain') ?? ''
      if (!looksLikeAddress(text)) return
      event.preventDefault()
      void navigate({ to: '/send', search: { to: text.trim() } })
    }
    document.addEventListener('paste', onPaste)
    return () => document.removeEventListener('paste', onPaste)
  }, [navigate])
}
