import { Button, Group, Select, Stack, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, fieldErrors, read, type Schema } from '../../api/client'
import { vocabulary } from '../../api/vocabulary'
import { numbersOf } from '../../parts/format/numbers'
import { Failed, Loading } from '../../parts/States'
import { useSession } from '../access/session'
import { EndWorkspace } from './EndWorkspace'
import { TimeZoneField } from './TimeZoneField'
import { WorkspaceLogo } from './WorkspaceLogo'

type Workspace = Schema['WorkspaceSettingsResponse']

const weekStarts = [
  { value: 'monday', label: 'Monday' },
  { value: 'saturday', label: 'Saturday' },
  { value: 'sunday', label: 'Sunday' },
]

const twoStepRules = [
  { value: 'nobody', label: 'Nobody' },
  { value: 'owners', label: 'Owners' },
  { value: 'everybody', label: 'Everybody' },
]

/** What the workspace is called, and by which clock, week and numbers its reports are written. */
export function WorkspaceSection() {
  const workspace = useQuery(vocabulary.workspace)
  if (workspace.isError) return <Failed error={workspace.error} onRetry={() => void workspace.refetch()} />
  if (!workspace.data) return <Loading rows={5} />
  return (
    <>
      <WorkspaceForm key={JSON.stringify(workspace.data)} workspace={workspace.data} />
      <WorkspaceLogo />
      <TimeZoneField keptFrom={workspace.data.clicksKeptFrom} />
      <EndWorkspace />
    </>
  )
}

function WorkspaceForm({ workspace }: { workspace: Workspace }) {
  const mayChange = useSession()?.role === 'owner'
  const queries = useQueryClient()
  const form = useForm({
    initialValues: {
      name: workspace.name,
      publicName: workspace.publicName ?? '',
      weekStart: workspace.weekStart,
      numberLanguage: workspace.numberLanguage,
      twoStepOf: workspace.twoStepOf,
    },
  })
  const save = useMutation({
    mutationFn: (body: typeof form.values) => read(api.PATCH('/api/v1/workspace', { body })),
    // Sentences with numbers, weeks and the name itself stand all over the application.
    onSuccess: () => queries.invalidateQueries(),
    onError: (error) => form.setErrors(fieldErrors(error)),
  })
  return (
    <form onSubmit={form.onSubmit((values) => save.mutate(values))} aria-label="Workspace">
      <Stack gap="sm" maw={480}>
        <TextInput
          label="Name"
          description="For you and your colleagues"
          required
          readOnly={!mayChange}
          {...form.getInputProps('name')}
        />
        <TextInput
          label="Public name"
          description="Visitors see it on the handoff page, readers on shared views and PDF reports"
          placeholder={form.values.name}
          readOnly={!mayChange}
          {...form.getInputProps('publicName')}
        />
        <Select
          label="Weeks start on"
          description="For “this week”, weekly trends and the digest"
          allowDeselect={false}
          data={weekStarts}
          readOnly={!mayChange}
          {...form.getInputProps('weekStart')}
        />
        <Select
          label="Numbers"
          description="On screen, in answers and in PDF reports. Exported tables always use plain digits and a decimal point."
          allowDeselect={false}
          data={workspace.numberLanguages.map((value) => ({ value, label: numbersOf(value) }))}
          readOnly={!mayChange}
          {...form.getInputProps('numberLanguage')}
        />
        <Select
          label="Require two-step sign-in of"
          description="Whoever hasn’t set it up does so before they go on. API tokens work as before."
          allowDeselect={false}
          data={twoStepRules}
          readOnly={!mayChange}
          {...form.getInputProps('twoStepOf')}
        />
        {save.isError && Object.keys(form.errors).length === 0 && <Failed error={save.error} />}
        {mayChange && (
          <Group>
            <Button type="submit" loading={save.isPending} disabled={!form.isDirty()}>
              Save
            </Button>
          </Group>
        )}
      </Stack>
    </form>
  )
}
