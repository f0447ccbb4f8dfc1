import { Drawer } from '@mantine/core'
import { useSearch } from '@tanstack/react-router'
import { lazy, Suspense } from 'react'
import { Loading } from '../../parts/States'
import { useOpenCode } from './useOpenCode'

const CodeDesigner = lazy(() => import('./CodeDesigner').then((m) => ({ default: m.CodeDesigner })))

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
      <Suspense fallback={<Loading />}>{qr && <CodeDesigner key={qr} linkId={qr} />}</Suspense>
    </Drawer>
  )
}
