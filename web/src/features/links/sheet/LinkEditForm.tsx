import { Button, Fieldset, Group, Select, Stack, Textarea, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, fieldErrors, Problem, read } from '../../../api/client'
import { vocabulary } from '../../../api/vocabulary'
import { FolderField } from '../../../parts/FolderField'
import { redirects } from '../../../parts/format/redirects'
import { LinkOptionFields } from '../../../parts/LinkOptionFields'
import { SpanFields } from '../../../parts/SpanFields'
import { Failed } from '../../../parts/States'
import { TagsField } from '../../../parts/TagPill'
import { useWorkspaceZone } from '../../access/session'
import { useCleanPaste } from '../../addresses/useCleanPaste'
import { PixelsField } from '../../retargeting/PixelsField'
import { ChannelField } from './ChannelField'
import { ChangedMeanwhile } from './ChangedMeanwhile'
import { changedParts, valuesOf, type LinkValues } from './linkValues'
import { linkChanged, linkQuery, seen, type Link } from '../links'

/** Changes whatever can be changed about a link; it takes effect at the next visit. What somebody else has changed meanwhile is shown before it is overwritten. */
export function LinkEditForm({ link: opened, onDone }: { link: Link; onDone: () => void }) {
  const queries = useQueryClient()
  const timeZone = useWorkspaceZone()
  // What this person has seen, which the list's own refreshing must not change under their hands.
  const [base, setBase] = useState(opened)
  const [theirs, setTheirs] = useState<Link>()
  const domains = useQuery(vocabulary.domains)
  const campaigns = useQuery(vocabulary.campaigns)
  const form = useForm<LinkValues>({ initialValues: valuesOf(base, timeZone) })
  const destination = useCleanPaste(form.values.destination, (value) =>
    form.setFieldValue('destination', value),
  )
  const save = useMutation({
    mutationFn: ({ values, over }: { values: LinkValues; over: Link }) =>
      read(
        api.PATCH('/api/v1/links/{id}', {
          params: { path: { id: base.id } },
          headers: seen(over),
          body: changedParts(valuesOf(base, timeZone), values),
        }),
      ),
    onSuccess: async (changed) => {
      await linkChanged(queries, changed)
      onDone()
    },
    onError: async (error) => {
      if (error instanceof Problem && error.status === 412)
        setTheirs(await queries.fetchQuery({ ...linkQuery(base.id), staleTime: 0 }))
      else form.setErrors(fieldErrors(error))
    },
  })
  const takeTheirs = (link: Link) => {
    setBase(link)
    form.setValues(valuesOf(link, timeZone))
    setTheirs(undefined)
    save.reset()
  }
  const isOvertaken = save.error instanceof Problem && save.error.status === 412
  return (
    <form onSubmit={form.onSubmit((values) => save.mutate({ values, over: base }))}>
      <Stack gap="sm" mt="md">
        <TextInput label="Title" {...form.getInputProps('title')} />
        <div>
          <TextInput
            label="Destination"
            autoFocus
            {...form.getInputProps('destination')}
            onPaste={destination.onPaste}
          />
          {destination.note}
        </div>
        <TextInput
          label="Fallback"
          description="Where visitors go while the destination is broken or the link isn’t active"
          placeholder="campaign or workspace default"
          {...form.getInputProps('fallback')}
        />
        <SpanFields
          opensAt={form.values.opensAt}
          endsAt={form.values.endsAt}
          onOpensAt={(opensAt) => form.setFieldValue('opensAt', opensAt)}
          onEndsAt={(endsAt) => form.setFieldValue('endsAt', endsAt)}
          opensError={form.errors.opensAt}
          endsError={form.errors.endsAt}
        />
        <Group grow align="start" gap="sm">
          <Select
            label="Short domain"
            data={
              domains.data?.filter((d) => d.isVerified || d.name === base.domain).map((d) => d.name) ?? [
                base.domain,
              ]
            }
            {...form.getInputProps('domain')}
          />
          <TextInput
            label="Slug"
            description={form.values.slug !== base.slug ? 'The previous address keeps working' : undefined}
            inputWrapperOrder={['label', 'input', 'description', 'error']}
            {...form.getInputProps('slug')}
          />
        </Group>
        <TagsField label="Tags" {...form.getInputProps('tags')} />
        <FolderField {...form.getInputProps('folder')} />
        <Textarea label="Note for colleagues" autosize minRows={2} {...form.getInputProps('note')} />
        <ChannelField link={base} form={form} />
        {base.source && (
          <Fieldset legend="Counted under" variant="unstyled">
            <Stack gap="sm">
              <Select
                label="Campaign"
                searchable
                data={campaigns.data?.map((c) => ({ value: c.key, label: c.name })) ?? []}
                {...form.getInputProps('campaign')}
              />
              <Group grow gap="sm" align="start">
                <TextInput label="Source" {...form.getInputProps('source')} />
                <TextInput label="Medium" {...form.getInputProps('medium')} />
              </Group>
              <Group grow gap="sm" align="start">
                <TextInput label="Term" {...form.getInputProps('term')} />
                <TextInput label="Content" {...form.getInputProps('content')} />
              </Group>
            </Stack>
          </Fieldset>
        )}
        <Select label="Redirect" data={redirects} {...form.getInputProps('redirect')} />
        <LinkOptionFields
          options={form.values.options}
          errors={form.errors}
          onChange={(change) => form.setFieldValue('options', { ...form.values.options, ...change })}
        />
        <PixelsField
          description="In addition to the post’s, campaign’s, channel’s and domain’s"
          {...form.getInputProps('pixels')}
        />
        {isOvertaken && theirs && (
          <ChangedMeanwhile
            told={save.error!.message}
            theirs={theirs}
            base={base}
            mine={form.values}
            isSaving={save.isPending}
            onMine={() => save.mutate({ values: form.values, over: theirs })}
            onTheirs={() => takeTheirs(theirs)}
          />
        )}
        {save.isError && !isOvertaken && Object.keys(form.errors).length === 0 && (
          <Failed error={save.error} />
        )}
        <Group gap={8}>
          <Button type="submit" loading={save.isPending} disabled={isOvertaken}>
            Save
          </Button>
          <Button variant="default" onClick={onDone}>
            Cancel
          </Button>
        </Group>
      </Stack>
    </form>
  )
}
