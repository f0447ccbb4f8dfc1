import {
  Button,
  Group,
  Radio,
  SegmentedControl,
  Stack,
  TagsInput,
  Text,
  Textarea,
  TextInput,
} from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { api, fieldErrors, read, type Schema } from '../../api/client'
import { Failed, Loading } from '../../parts/States'
import { useSession } from '../access/session'
import classes from './Audiences.module.css'
import { handoffQuery } from './handoff'

type Settings = Schema['HandoffSetupResponse']

const languages = { en: 'English', de: 'German', fr: 'French', es: 'Spanish' } as const

/** Whom the workspace asks before pixels fire, in which words, and how the page in between looks. */
export function HandoffSection() {
  const settings = useQuery(handoffQuery)
  if (settings.isError) return <Failed error={settings.error} onRetry={() => void settings.refetch()} />
  if (!settings.data) return <Loading rows={5} />
  return <HandoffForm key={JSON.stringify(settings.data)} settings={settings.data} />
}

function HandoffForm({ settings }: { settings: Settings }) {
  const isOwner = useSession()?.role === 'owner'
  const queries = useQueryClient()
  const [language, setLanguage] = useState<keyof typeof languages>('en')
  const form = useForm({
    initialValues: {
      consent: settings.consent,
      countries: settings.countries,
      questions: settings.questions,
      privacyPage: settings.privacyPage ?? '',
      line: settings.line ?? '',
      paper: settings.paper,
      ink: settings.ink,
    },
  })
  const save = useMutation({
    mutationFn: (body: typeof form.values) => read(api.PATCH('/api/v1/handoff', { body })),
    onSuccess: (changed) => {
      queries.setQueryData(handoffQuery.queryKey, changed)
      return queries.invalidateQueries({ queryKey: ['handoff-page'] })
    },
    onError: (error) => form.setErrors(fieldErrors(error)),
  })
  return (
    <div className={classes.columns}>
      <form onSubmit={form.onSubmit((values) => save.mutate(values))} aria-label="Handoff">
        <fieldset disabled={!isOwner} style={{ border: 0, margin: 0, padding: 0 }}>
          <Stack gap="md" maw={640}>
            <Radio.Group
              label="Ask for consent"
              description="A refusal is always respected, including a browser’s automatic opt-out."
              {...form.getInputProps('consent')}
            >
              <Stack gap={8} mt={8}>
                <Radio value="off" label="Nobody" />
                <Radio value="listed" label="Visitors from these countries, or from unknown ones" />
                <Radio value="everybody" label="Everybody" />
              </Stack>
            </Radio.Group>
            {form.values.consent === 'listed' && (
              <TagsInput
                label="Countries"
                description="Two-letter codes. Starts with the European Economic Area, the United Kingdom and Switzerland."
                {...form.getInputProps('countries')}
              />
            )}
            {form.values.consent !== 'off' && (
              <>
                <div>
                  <SegmentedControl
                    size="xs"
                    mb={6}
                    aria-label="Language of the consent question"
                    value={language}
                    onChange={(value) => setLanguage(value as keyof typeof languages)}
                    data={Object.entries(languages).map(([value, label]) => ({ value, label }))}
                  />
                  <Textarea
                    label={`Question in ${languages[language]}`}
                    description="{networks} and {who} are replaced with names. Leave empty for the default text."
                    autosize
                    minRows={2}
                    placeholder={settings.shippedQuestions[language]}
                    value={form.values.questions[language] ?? ''}
                    onChange={(event) =>
                      form.setFieldValue('questions', {
                        ...form.values.questions,
                        [language]: event.currentTarget.value,
                      })
                    }
                    error={form.errors.questions}
                  />
                </div>
                <TextInput label="Privacy page" placeholder="none" {...form.getInputProps('privacyPage')} />
              </>
            )}
            <TextInput
              label="Text shown while redirecting"
              description="Leave empty for a blank page. It shows for less than a second."
              placeholder="none"
              maxLength={80}
              {...form.getInputProps('line')}
            />
            <Group align="end" gap="sm">
              <TextInput label="Background colour" w={130} {...form.getInputProps('paper')} />
              <TextInput label="Text colour" w={130} {...form.getInputProps('ink')} />
              <Text size="sm" c="dimmed" pb={8}>
                Contrast {settings.contrast} to 1, at least 4.5
              </Text>
            </Group>
            <Text size="sm" c="dimmed">
              The logo and your public name are set under{' '}
              <Link to="/settings/$section" params={{ section: 'workspace' }}>
                Workspace
              </Link>
              .
            </Text>
            {isOwner && (
              <Group gap={8}>
                <Button type="submit" loading={save.isPending} disabled={!form.isDirty()}>
                  Save
                </Button>
              </Group>
            )}
            {save.isError && Object.keys(form.errors).length === 0 && <Failed error={save.error} />}
          </Stack>
        </fieldset>
      </form>
      <Sample language={form.values.consent === 'off' ? undefined : language} />
    </div>
  )
}

/** The page as visitors see it, drawn by the server as it was saved last. */
function Sample({ language }: { language: string | undefined }) {
  const page = useQuery({
    queryKey: ['handoff-page', language],
    queryFn: () =>
      read(api.GET('/api/v1/handoff/page', { params: { query: { language } }, parseAs: 'text' })),
  })
  return (
    <div>
      <Text size="sm" c="dimmed" mb={6}>
        {language ? 'Consent page preview' : 'Handoff page preview'}, as last saved
      </Text>
      <iframe
        title="The handoff page"
        sandbox=""
        className={classes.preview}
        srcDoc={String(page.data ?? '')}
      />
    </div>
  )
}
