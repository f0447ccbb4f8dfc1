import { Button, Checkbox, Group, Select, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation } from '@tanstack/react-query'
import { api, fieldErrors, read } from '../../api/client'
import type { Domain } from '../../api/vocabulary'
import { passings, redirects } from '../../parts/redirects'
import { Failed } from '../../parts/States'

/** The pages that a short domain shows itself, and what its new links begin with. */
export function DomainForm({ domain, onDone }: { domain: Domain; onDone: () => Promise<void> }) {
  const form = useForm({
    initialValues: {
      barePage: domain.barePage ?? '',
      unknownPage: domain.unknownPage ?? '',
      endedPage: domain.endedPage ?? '',
      redirect: String(domain.redirect ?? ''),
      hideFromSearch: domain.options.hideFromSearch,
      passQuery: domain.options.passQuery as string,
    },
  })
  const save = useMutation({
    mutationFn: ({ redirect, hideFromSearch, passQuery, ...pages }: typeof form.values) =>
      read(
        api.PATCH('/api/v1/domains/{id}', {
          params: { path: { id: domain.id } },
          body: {
            ...pages,
            redirect: redirect ? Number(redirect) : 0,
            options: { hideFromSearch, passQuery: passQuery as Domain['options']['passQuery'] },
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
        <Select
          label="Parameters in the visitor’s address"
          w={260}
          data={passings}
          {...form.getInputProps('passQuery')}
        />
        <Checkbox
          mt={30}
          label="Hide new links from search engines"
          {...form.getInputProps('hideFromSearch', { type: 'checkbox' })}
        />
      </Group>
      {save.isError && Object.keys(form.errors).length === 0 && <Failed error={save.error} />}
      <Button type="submit" size="sm" mb="sm" loading={save.isPending}>
        Save
      </Button>
    </form>
  )
}
