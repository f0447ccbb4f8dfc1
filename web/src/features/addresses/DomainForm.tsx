import { Button, Checkbox, Group, Select, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation } from '@tanstack/react-query'
import { api, fieldErrors, read } from '../../api/client'
import type { Domain } from '../../api/vocabulary'
import { redirects } from '../../parts/format/redirects'
import { Failed } from '../../parts/States'
import { asFields, LinkDefaultFields } from '../workspace/LinkDefaultFields'

/** The pages that a short domain shows itself, and what its new links begin with. */
export function DomainForm({ domain, onDone }: { domain: Domain; onDone: () => Promise<void> }) {
  const form = useForm({
    initialValues: {
      barePage: domain.barePage ?? '',
      unknownPage: domain.unknownPage ?? '',
      endedPage: domain.endedPage ?? '',
      redirect: String(domain.redirect ?? ''),
      hasOwnOptions: domain.hasOwnOptions,
      options: asFields(domain.options),
    },
  })
  const save = useMutation({
    mutationFn: ({ redirect, hasOwnOptions, options, ...pages }: typeof form.values) =>
      read(
        api.PATCH('/api/v1/domains/{id}', {
          params: { path: { id: domain.id } },
          body: {
            ...pages,
            redirect: redirect ? Number(redirect) : 0,
            hasOwnOptions,
            options: hasOwnOptions ? options : undefined,
          },
        }),
      ),
    onSuccess: onDone,
    onError: (error) => form.setErrors(fieldErrors(error)),
  })
  return (
    <form onSubmit={form.onSubmit((values) => save.mutate(values))}>
      <Group gap="sm" align="start" py="sm" wrap="wrap">
        <TextInput
          label="Bare domain redirects to"
          placeholder="a plain page"
          w={260}
          {...form.getInputProps('barePage')}
        />
        <TextInput
          label="Unknown slugs redirect to"
          placeholder="a plain page"
          w={260}
          {...form.getInputProps('unknownPage')}
        />
        <TextInput
          label="Ended links redirect to"
          placeholder="a plain page"
          w={260}
          {...form.getInputProps('endedPage')}
        />
        <Select
          label="Redirect type of new links"
          clearable
          placeholder="workspace default"
          w={260}
          data={redirects}
          error={form.errors.redirect}
          value={form.values.redirect || null}
          onChange={(value) => form.setFieldValue('redirect', value ?? '')}
        />
        <Checkbox
          mt={30}
          label="Use different options for new links here"
          {...form.getInputProps('hasOwnOptions', { type: 'checkbox' })}
        />
      </Group>
      {form.values.hasOwnOptions && (
        <div
          role="group"
          aria-label={`Options of new links on ${domain.shown}`}
          style={{ paddingBottom: 14 }}
        >
          <LinkDefaultFields
            options={form.values.options}
            errors={form.errors}
            onChange={(options) => form.setFieldValue('options', options)}
          />
        </div>
      )}
      {save.isError && Object.keys(form.errors).length === 0 && <Failed error={save.error} />}
      <Button type="submit" size="sm" mb="sm" loading={save.isPending}>
        Save
      </Button>
    </form>
  )
}
