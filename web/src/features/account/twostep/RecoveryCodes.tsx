import { Alert, Button, Group, SimpleGrid, Text } from '@mantine/core'
import { useClipboard } from '@mantine/hooks'

/** Recovery codes, shown once: whoever loses their phone signs in with one of them. */
export function RecoveryCodes({ codes, onDone }: { codes: string[]; onDone: () => void }) {
  const clipboard = useClipboard({ timeout: 1500 })
  return (
    <Alert variant="default" title="Keep your recovery codes" role="status" maw={560}>
      <Text size="sm" mb={8}>
        Each signs you in once if you can’t use your app or passkey. Print them, or keep them in your password
        manager: they aren’t shown again.
      </Text>
      <SimpleGrid
        component="ul"
        cols={2}
        spacing={4}
        style={{ listStyle: 'none', padding: 0, maxWidth: 300 }}
      >
        {codes.map((code) => (
          <Text component="li" key={code} ff="monospace">
            {code}
          </Text>
        ))}
      </SimpleGrid>
      <Group gap={8} mt="sm">
        <Button variant="default" onClick={() => clipboard.copy(codes.join('\n'))}>
          {clipboard.copied ? 'Copied' : 'Copy codes'}
        </Button>
        <Button onClick={onDone}>I’ve kept them</Button>
      </Group>
    </Alert>
  )
}
