import { Button, Group, Stack, Switch, Text, Textarea, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { api, fieldErrors, read } from '../../api/client'
import { Failed, Loading } from '../../parts/States'
import { useSession } from '../access/session'
import { toLink } from '../../parts/toLink'
import { checkSettingsQuery, checksChanged, type CheckSettings } from './checks'

/** Whether pages behind links are asked, what counts as a sign that they are gone, and where visitors are led then. */
export function LinkCheckSection() {
  const settings = useQuery(checkSettingsQuery)
  if (settings.isError) return <Failed error={settings.error} onRetry={() => void settings.refetch()} />
  if (!settings.data) return <Loading rows={4} />
  return <LinkCheckForm key={JSON.stringify(settings.data)} settings={settings.data} />
}

function LinkCheckForm({ settings }: { settings: CheckSettings }) {
  const isOwner = useSession()?.role === 'owner'
  const queries = useQueryClient()
  const form = useForm({
    initialValues: {
      isOn: settings.isOn,
      goneWords: settings.goneWords.join('\n'),
      fallback: settings.fallback ?? '',
    },
  })
  const save = useMutation({
    mutationFn: ({ goneWords, ...rest }: typeof form.values) =>
      read(
        api.PATCH('/api/v1/link-checks/settings', {
          body: { ...rest, ...(form.isDirty('goneWords') ? { goneWords: goneWords.split('\n') } : {}) },
        }),
      ),
    onSuccess: async (saved) => {
      queries.setQueryData(checkSettingsQuery.queryKey, saved)
      await checksChanged(queries)
    },
    onError: (error) => form.setErrors(fieldErrors(error)),
  })
  return (
    <form onSubmit={form.onSubmit((values) => save.mutate(values))} aria-label="Link check">
      <fieldset disabled={!isOwner} style={{ border: 0, margin: 0, padding: 0 }}>
        <Stack gap="md" maw={640}>
          <Text c="dimmed">
            Every destination page is checked daily, and straight after a change.{' '}
            <Link to="/needs-attention" style={toLink}>
              Needs attention
            </Link>
          </Text>
          <Switch label="Check destination pages" {...form.getInputProps('isOn', { type: 'checkbox' })} />
          <TextInput
            label="Fallback for all links"
            description="Where visitors go while a page is broken. Campaigns and links can have their own."
            placeholder="none (visitors reach the broken page)"
            {...form.getInputProps('fallback')}
          />
          <Textarea
            label="Words that mean a page is gone"
            description="One per line. They always count in titles and headings; elsewhere only if they are new to the page."
            autosize
            minRows={4}
            maxRows={14}
            {...form.getInputProps('goneWords')}
          />
          {isOwner && (
            <Group gap={8}>
              <Button type="submit" loading={save.isPending} disabled={!form.isDirty()}>
                Save
              </Button>
              <Button
                variant="subtle"
                onClick={() => form.setFieldValue('goneWords', settings.shippedWords.join('\n'))}
              >
                Restore defaults
              </Button>
            </Group>
          )}
          {save.isError && Object.keys(form.errors).length === 0 && <Failed error={save.error} />}
        </Stack>
      </fieldset>
    </form>
  )
}
