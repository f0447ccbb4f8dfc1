import { Drawer } from '@mantine/core'
import { useSearch } from '@tanstack/react-router'
import { later } from '../../parts/later'
import { useOpenCode } from './useOpenCode'

const CodeDesigner = later('CodeDesigner', () => import('./CodeDesigner').then((m) => m.CodeDesigner))

/** The designer in a side sheet, wherever a link is shown; the address holds which link's code it is. */
export function CodeDrawer() {
  const { qr } = useSearch({ from: '/members' })
  const open = useOpenCode()
  return (
    <Drawer
      opened={qr !== undefined}
      onClose={() => open(undefined)}
      position="right"
      size={980}
      title="QR code"
      // The head of a sheet is no banner of the page.
      attributes={{ header: { role: 'presentation' } }}
      closeButtonProps={{ 'aria-label': 'Close the QR code' }}
    >
      {qr && <CodeDesigner key={qr} linkId={qr} />}
    </Drawer>
  )
}
