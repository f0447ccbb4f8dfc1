import { Button } from '@mantine/core'
import { useHotkeys } from '@mantine/hooks'
import { IconQrcode } from '@tabler/icons-react'
import classes from './Codes.module.css'
import { useOpenCode } from './useOpenCode'

/** Opens a link's QR code; by the key q where only one link is shown. */
export function CodeButton({ link, name, hasKey }: { link: string; name?: string; hasKey?: boolean }) {
  const open = useOpenCode()
  useHotkeys([['q', () => hasKey && open(link)]])
  return (
    <Button
      size="sm"
      variant="default"
      leftSection={<IconQrcode size={16} aria-hidden />}
      aria-label={name ? `QR code for ${name}` : undefined}
      onClick={() => open(link)}
    >
      QR code{hasKey && <kbd className={classes.key}>q</kbd>}
    </Button>
  )
}
