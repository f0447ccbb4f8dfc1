import { Alert, Button, Code, Group, Stack, Text } from '@mantine/core'
import { copy } from '../../parts/files/copy'
import { counted } from '../../parts/format/numbers'
import type { MadeInvitations } from './people'

/** What became of invitations: e-mails are on their way, or links to be handed over by oneself. Either way each link can be copied, this once. */
export function MadeLinks({ made: { isMailed, invitations } }: { made: MadeInvitations }) {
  const one = invitations.length === 1 ? invitations[0] : undefined
  const whom = one ? one.email : counted(invitations.length, 'person', 'people')
  const [onItsWay, ready] = one
    ? ['Invitation on its way', 'Invitation ready']
    : ['Invitations on their way', 'Invitations ready']
  return (
    <Alert
      mt="md"
      variant="default"
      role="status"
      title={isMailed ? `${onItsWay} to ${whom}` : `${ready} for ${whom}`}
    >
      <Text size="sm" mb={8}>
        {isMailed
          ? 'The link works for 7 days. You can also hand it over yourself.'
          : 'This installation sends no e-mails. Hand the link over yourself; it works for 7 days.'}
      </Text>
      <Stack gap={6}>
        {invitations.map((invitation) => (
          <Group key={invitation.id} gap={8} wrap="nowrap">
            <Code
              style={{ flex: '0 1 auto', overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}
            >
              {invitation.email}
            </Code>
            <Button
              size="compact-sm"
              variant="default"
              style={{ flexShrink: 0 }}
              aria-label={`Copy the link for ${invitation.email}`}
              onClick={() => void copy('Link', location.origin + invitation.path)}
            >
              Copy link
            </Button>
          </Group>
        ))}
      </Stack>
    </Alert>
  )
}
