import { Button, Group, Text } from '@mantine/core'
import { useCallback, useEffect, useRef, useState, type ClipboardEvent } from 'react'
import { cleanAddress } from './cleanAddress'

/**
 * Frees an address from what copying left around it as it is pasted, says so, and lets it be put back. A valid address is left alone; the server knows which are.
 * `isGiven`: the field begins with an address that was pasted elsewhere, or shared.
 */
export function useCleanPaste(value: string, onChange: (value: string) => void, isGiven = false) {
  const [cleaned, setCleaned] = useState<{ pasted: string; address: string }>()
  const latest = useRef({ value, onChange })
  useEffect(() => {
    latest.current = { value, onChange }
  }, [value, onChange])

  // Where the server can't be asked, what was pasted stands, and saving says what is wrong with it.
  const clean = useCallback(async (text: string, pasted: string) => {
    const { address, isChanged } = await cleanAddress(text)
    // Who has typed on meanwhile knows better.
    if (!isChanged || latest.current.value !== pasted) return
    latest.current.onChange(address)
    setCleaned({ pasted, address })
  }, [])

  const [given] = useState(isGiven ? value : '')
  useEffect(() => {
    if (given) clean(given, given).catch(() => undefined)
  }, [given, clean])

  function onPaste(event: ClipboardEvent<HTMLInputElement>) {
    const { selectionStart, selectionEnd, value: present } = event.currentTarget
    const text = event.clipboardData.getData('text/plain')
    if (text.trim() === '' || selectionStart !== 0 || selectionEnd !== present.length) return
    event.preventDefault()
    const pasted = text.trim().replace(/\s*[\r\n]+\s*/g, '')
    onChange(pasted)
    latest.current.value = pasted
    clean(text, pasted).catch(() => undefined)
  }

  const note = cleaned && cleaned.address === value && (
    <Group gap={8} mt={4} role="status">
      <Text size="sm" c="dimmed">
        Removed extra characters around the address.
      </Text>
      <Button
        size="compact-sm"
        variant="default"
        onClick={() => {
          onChange(cleaned.pasted)
          setCleaned(undefined)
        }}
      >
        Undo
      </Button>
    </Group>
  )
  return { onPaste, note }
}
