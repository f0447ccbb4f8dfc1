import { Button, Group, Select, Stack, Text, Title } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { api, fieldErrors, read, type Schema } from '../../api/client'
import { vocabulary, type Domain } from '../../api/vocabulary'
import { redirects } from '../../parts/format/redirects'
import { slugKinds } from '../../parts/format/slugKinds'
import { Failed, Loading } from '../../parts/States'
import { useSession } from '../access/session'
import { stylesQuery } from '../codes/codes'
import { asFields, LinkDefaultFields } from './LinkDefaultFields'

type Workspace = Schema['WorkspaceSettingsResponse']
type SavedStyle = Schema['CodeStylesResponse']

const blackOnWhite = ''

/** What new links begin with, all in one place. */
export function NewLinksSection() {
  const workspace = useQuery(vocabulary.workspace)
  const domains = useQuery(vocabulary.domains)
  const styles = useQuery(stylesQuery)
  const failed = [workspace, domains, styles].find((q) => q.isError)
  if (failed?.error) return <Failed error={failed.error} onRetry={() => void failed.refetch()} />
  if (!workspace.data || !domains.data || !styles.data) return <Loading rows={8} />
  return (
    <>
      <Text size="sm" c="dimmed" mb="md" maw={640}>
        New links start with these. Posts, rows and imports can differ; existing links keep what they have.
      </Text>
      <NewLinksForm
        key={JSON.stringify([workspace.data, domains.data.map((d) => d.isDefault), styles.data])}
        workspace={workspace.data}
        domains={domains.data.filter((d) => d.isVerified)}
        styles={styles.data}
      />
      <Exceptions domains={domains.data} />
    </>
  )
}

interface FormProps {
  workspace: Workspace
  domains: Domain[]
  styles: SavedStyle[]
}

function NewLinksForm({ workspace, domains, styles }: FormProps) {
  const readOnly = useSession()?.role !== 'owner'
  const queries = useQueryClient()
  const defaultDomain = domains.find((d) => d.isDefault)
  const defaultStyle = styles.find((s) => s.isDefault)
  const form = useForm({
    initialValues: {
      domain: defaultDomain?.id ?? null,
      redirect: String(workspace.redirect),
      slugKind: workspace.slugKind,
      style: defaultStyle?.id ?? blackOnWhite,
      options: asFields(workspace.options),
    },
  })
  const save = useMutation({
    mutationFn: async ({ domain, redirect, slugKind, style, options }: typeof form.values) => {
      await read(api.PATCH('/api/v1/workspace', { body: { redirect: Number(redirect), slugKind, options } }))
      if (domain && domain !== defaultDomain?.id)
        await read(
          api.PATCH('/api/v1/domains/{id}', { params: { path: { id: domain } }, body: { isDefault: true } }),
        )
      const changed = style === blackOnWhite ? defaultStyle?.id : style
      if (changed && style !== (defaultStyle?.id ?? blackOnWhite))
        await read(
          api.PATCH('/api/v1/code-styles/{id}', {
            params: { path: { id: changed } },
            body: { isDefault: style !== blackOnWhite },
          }),
        )
    },
    onSettled: () =>
      Promise.all(
        ['workspace', 'domains', 'code-styles'].map((key) => queries.invalidateQueries({ queryKey: [key] })),
      ),
    onError: (error) => form.setErrors(fieldErrors(error)),
  })
  return (
    <form onSubmit={form.onSubmit((values) => save.mutate(values))} aria-label="Defaults for new links">
      <Stack gap="sm" maw={480}>
        {domains.length > 0 && (
          <Select
            label="Short domain"
            allowDeselect={false}
            readOnly={readOnly}
            data={domains.map((d) => ({ value: d.id, label: d.shown }))}
            {...form.getInputProps('domain')}
          />
        )}
        <Select
          label="Slugs of posts"
          description="Imported lists get random slugs unless you choose otherwise."
          allowDeselect={false}
          readOnly={readOnly}
          data={slugKinds}
          {...form.getInputProps('slugKind')}
        />
        <Select
          label="Redirect"
          description="301 and 308 tell search engines to pass on ranking; 302 and 307 do not. Every visit is counted, whichever type you choose."
          allowDeselect={false}
          readOnly={readOnly}
          data={redirects}
          {...form.getInputProps('redirect')}
        />
        <LinkDefaultFields
          options={form.values.options}
          readOnly={readOnly}
          errors={form.errors}
          onChange={(options) => form.setFieldValue('options', options)}
        />
        <Select
          label="Look of QR codes"
          allowDeselect={false}
          readOnly={readOnly}
          data={[
            { value: blackOnWhite, label: 'Black on white' },
            ...styles.map((s) => ({ value: s.id, label: s.name })),
          ]}
          {...form.getInputProps('style')}
        />
        {save.isError && Object.keys(form.errors).length === 0 && <Failed error={save.error} />}
        {!readOnly && (
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

/** The short domains whose new links differ. */
function Exceptions({ domains }: { domains: Domain[] }) {
  const differing = domains.filter((d) => d.hasOwnOptions || d.redirect != null)
  if (differing.length === 0) return null
  return (
    <section aria-label="Exceptions">
      <Title order={2} size={18} mt="xl" mb={4}>
        Exceptions
      </Title>
      <Text size="sm" maw={640}>
        New links on {differing.map((d) => d.shown).join(', ')} have defaults of their own. Change them under{' '}
        <Link to="/settings/$section" params={{ section: 'domains' }}>
          Short domains
        </Link>
        .
      </Text>
    </section>
  )
}
