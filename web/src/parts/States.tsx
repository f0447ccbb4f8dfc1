import { Alert, Button, Skeleton, Stack, Text, Title } from '@mantine/core'
import { IconAlertTriangle } from '@tabler/icons-react'
import type { ReactNode } from 'react'
import { isUnreachable, wordsOf } from '../api/client'
import { isOutdated } from '../api/code'

/** Shown while something is on its way. */
export function Loading({ rows = 6 }: { rows?: number }) {
  return (
    <Stack gap="xs" role="status" aria-busy="true" aria-label="Loading">
      {Array.from({ length: rows }, (_, i) => (
        <Skeleton key={i} height={40} radius={8} />
      ))}
    </Stack>
  )
}

/** Shown when something failed: what, why, and the way on. */
export function Failed({ error, onRetry }: { error: Error; onRetry?: () => void }) {
  return (
    <Alert
      role="alert"
      variant="default"
      icon={<IconAlertTriangle aria-hidden color="var(--bad)" />}
      title={titleOf(error)}
    >
      <Text size="sm">{wordsOf(error)}</Text>
      {isOutdated(error) ? (
        <Button mt="sm" variant="default" onClick={() => location.reload()}>
          Reload the page
        </Button>
      ) : (
        onRetry && (
          <Button mt="sm" variant="default" onClick={onRetry}>
            Try again
          </Button>
        )
      )}
    </Alert>
  )
}

function titleOf(error: Error) {
  if (isUnreachable(error)) return 'No connection'
  return isOutdated(error) ? 'This page is out of date' : 'Something went wrong'
}

/** Shown where there is nothing yet: the next step in one sentence and one button. */
export function Empty({
  title,
  children,
  action,
}: {
  title: string
  children: ReactNode
  action?: ReactNode
}) {
  return (
    <Stack align="center" gap="xs" py={56} px="md" ta="center">
      <Title order={2} size={20}>
        {title}
      </Title>
      <Text c="dimmed" maw={460}>
        {children}
      </Text>
      {action}
    </Stack>
  )
}
