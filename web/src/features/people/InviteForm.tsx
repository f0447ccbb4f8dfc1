import { Alert, Button, Group, Select, Stack, Textarea, TextInput, Title } from '@mantine/core'
import { useForm } from '@mantine/form'
import { api, fieldErrors, read, wordsOf } from '../../api/client'
import { counted } from '../../parts/format/numbers'
import { MadeLinks } from './MadeLinks'
import { pastedEmails } from './pastedEmails'
import { useChange } from './people'
import { roles, type Role } from '../access/roles'

/** Invites one person or a pasted list of them. */
export function InviteForm() {
  const form = useForm({ initialValues: { emails: '', role: 'editor' as Role, message: '' } })
  const found = pastedEmails(form.values.emails)
  const invite = useChange(({ emails, role, message }: typeof form.values) =>
    read(api.POST('/api/v1/invitations', { body: { emails: pastedEmails(emails), role, message } })),
  )
  return (
    <>
      <Title order={2} size={18} mt="xl" mb={4}>
        Invite people
      </Title>
      <form
        aria-label="Invite people"
        onSubmit={form.onSubmit((values) =>
          invite.mutate(values, {
            onSuccess: () => form.reset(),
            onError: (error) => form.setErrors(fieldErrors(error)),
          }),
        )}
      >
        <Stack gap="sm" maw={560}>
          <Textarea
            label="E-mail addresses"
            description="One, or a list pasted from anywhere"
            autosize
            minRows={1}
            maxRows={8}
            required
            {...form.getInputProps('emails')}
          />
          <Group gap="sm" align="end">
            <Select
              label="Role"
              w={140}
              allowDeselect={false}
              data={roles.map(({ value, label }) => ({ value, label }))}
              {...form.getInputProps('role')}
            />
            <TextInput
              label="Message (optional)"
              style={{ flex: 1, minWidth: 220 }}
              {...form.getInputProps('message')}
            />
          </Group>
          {invite.isError && Object.keys(form.errors).length === 0 && (
            <Alert role="alert" variant="default" title="Not invited">
              {wordsOf(invite.error)}
            </Alert>
          )}
          <Group>
            <Button type="submit" loading={invite.isPending}>
              {found.length > 1 ? `Invite ${counted(found.length, 'person', 'people')}` : 'Invite'}
            </Button>
          </Group>
        </Stack>
      </form>
      {invite.data && <MadeLinks made={invite.data} />}
    </>
  )
}
