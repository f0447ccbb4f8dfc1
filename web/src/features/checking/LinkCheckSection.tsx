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
            Each page that links lead to is checked once a day, and at once after a change.{' '}
            <Link to="/needs-care" style={toLink}>
              What needs care
            </Link>
          </Text>
          <Switch
            label="Check whether pages still answer"
            {...form.getInputProps('isOn', { type: 'checkbox' })}
          />
          <TextInput
            label="Fallback for all links"
            description="Where visitors are led while a page is dead. A campaign or a link may have another."
            placeholder="none: visitors reach the dead page"
            {...form.getInputProps('fallback')}
          />
          <Textarea
            label="Words by which a page says that it is gone"
            description="One a line. In a title or heading they always count, elsewhere where they were not there before."
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
                Take the shipped words
              </Button>
            </Group>
          )}
          {save.isError && Object.keys(form.errors).length === 0 && <Failed error={save.error} />}
        </Stack>
      </fieldset>
    </form>
  )
}
