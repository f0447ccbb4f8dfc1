import { Button, Group, Select, Stack, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, fieldErrors, read } from '../../api/client'
import { FormError } from '../../parts/FormError'
import { numbersOf } from '../../parts/format/numbers'
import type { Account } from './account'

const startPages: { value: Account['startPage']; label: string }[] = [
  { value: 'send', label: 'Send' },
  { value: 'links', label: 'Links' },
  { value: 'compare', label: 'Compare' },
  { value: 'digest', label: 'Weekly digest' },
]

/** The person’s name, and how they like to work. */
export function ProfileForm({ account }: { account: Account }) {
  const queries = useQueryClient()
  const form = useForm({
    initialValues: {
      name: account.name,
      numberLanguage: account.numberLanguage ?? '',
      startPage: account.startPage,
    },
  })
  const save = useMutation({
    mutationFn: (body: typeof form.values) => read(api.PATCH('/api/v1/account', { body })),
    // Names and numbers stand all over the application.
    onSuccess: () => queries.invalidateQueries(),
    onError: (error) => form.setErrors(fieldErrors(error)),
  })
  return (
    <form onSubmit={form.onSubmit((values) => save.mutate(values))} aria-label="Profile">
      <Stack gap="sm" maw={420}>
        <TextInput
          label="Name"
          description="Shown to colleagues"
          autoComplete="name"
          required
          {...form.getInputProps('name')}
        />
        <Select
          label="Numbers and dates"
          allowDeselect={false}
          data={[
            { value: '', label: 'As in the workspace' },
            ...account.numberLanguages.map((tag) => ({ value: tag, label: numbersOf(tag) })),
          ]}
          {...form.getInputProps('numberLanguage')}
        />
        <Select
          label="Start page"
          description="Where you begin after signing in"
          allowDeselect={false}
          data={startPages}
          {...form.getInputProps('startPage')}
        />
        <FormError error={save.error} form={form} />
        <Group>
          <Button type="submit" loading={save.isPending} disabled={!form.isDirty()}>
            Save
          </Button>
        </Group>
      </Stack>
    </form>
  )
}
