import { Button, Text } from '@mantine/core'
import { useMutation } from '@tanstack/react-query'
import { api, read } from '../../api/client'
import { Failed } from '../../parts/States'
import classes from './Audiences.module.css'
import type { Pixel } from './pixels'

/** Asks the network once and shows what was sent and what came back. */
export function TestFire({ pixel }: { pixel: Pixel }) {
  const test = useMutation({
    mutationFn: () => read(api.POST('/api/v1/pixels/{id}/test', { params: { path: { id: pixel.id } } })),
  })
  return (
    <section className={classes.leaf} aria-label="Test">
      <h2>Test</h2>
      <Button variant="default" loading={test.isPending} onClick={() => test.mutate()}>
        Fire it once
      </Button>
      <div aria-live="polite">
        {test.data && (
          <>
            <Text mt="sm" c={test.data.isGood ? 'var(--good)' : 'var(--bad)'} fw={500}>
              {test.data.verdict}
            </Text>
            <Text size="sm" c="dimmed" mt={6}>
              Sent:
            </Text>
            <code className={classes.code}>{test.data.sent}</code>
            {test.data.status !== null && (
              <Text size="sm" c="dimmed">
                Came back: {test.data.status} {test.data.mediaType} after {test.data.milliseconds} ms
              </Text>
            )}
          </>
        )}
        {test.isError && <Failed error={test.error} />}
      </div>
    </section>
  )
}
