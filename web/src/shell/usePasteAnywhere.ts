import { notifications } from '@mantine/notifications'
import { useNavigate } from '@tanstack/react-router'
import { useEffect } from 'react'
import { wordsOf } from '../api/client'
import { uploadList } from '../features/batches/batches'
import { looksLikeAddress, looksLikeList } from './pasted'

/** A page's address pasted anywhere outside a field begins a post with it; several begin a list. */
export function usePasteAnywhere() {
  const navigate = useNavigate()
  useEffect(() => {
    function onPaste(event: ClipboardEvent) {
      const target = event.target as HTMLElement | null
      if (target?.closest('input, textarea, [contenteditable]')) return
      const text = event.clipboardData?.getData('text/plain') ?? ''
      if (looksLikeList(text)) {
        event.preventDefault()
        uploadList(new Blob([text]), 'Pasted list').then(
          (batch) => navigate({ to: '/send/many', search: { batch: batch.id } }),
          (error: Error) => notifications.show({ color: 'red', message: wordsOf(error) }),
        )
        return
      }
      if (!looksLikeAddress(text)) return
      event.preventDefault()
      void navigate({ to: '/send', search: { to: text.trim() } })
    }
    document.addEventListener('paste', onPaste)
    return () => document.removeEventListener('paste', onPaste)
  }, [navigate])
}
