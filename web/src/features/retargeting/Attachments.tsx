import { MultiSelect, Stack, Text } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, read, type Schema } from '../../api/client'
import { vocabulary } from '../../api/vocabulary'
import { counted } from '../../parts/format/numbers'
import { Failed } from '../../parts/States'
import classes from './Audiences.module.css'
import type { Pixel } from './pixels'

/** Where a pixel fires for many links at once. Each choice is saved as it is made. */
export function Attachments({ pixel, mayChange }: { pixel: Pixel; mayChange: boolean }) {
  const campaigns = useQuery(vocabulary.campaigns)
  const channels = useQuery(vocabulary.channels)
  const domains = useQuery(vocabulary.domains)
  const queries = useQueryClient()
  const attach = useMutation({
    mutationFn: (body: Schema['AttachPixelsRequest']) =>
      read(api.PUT('/api/v1/pixels/{id}/attachments', { params: { path: { id: pixel.id } }, body })),
    onSuccess: async (changed) => {
      queries.setQueryData(['pixels', pixel.id], changed)
      await queries.invalidateQueries({ queryKey: ['links'] })
    },
  })
  const fields = [
    {
      key: 'campaigns',
      label: 'Campaigns',
      data: campaigns.data?.map((c) => ({ value: c.key, label: c.name })),
    },
    {
      key: 'channels',
      label: 'Channels',
      data: channels.data?.map((c) => ({ value: c.key, label: c.name })),
    },
    {
      key: 'domains',
      label: 'Short domains',
      data: domains.data?.map((d) => ({ value: d.name, label: d.shown })),
    },
  ] as const
  return (
    <section className={classes.leaf} aria-label="Fires for">
      <h2>Fires for</h2>
      <Text size="sm" c="dimmed" mb="sm" role="status">
        For {counted(pixel.links, 'link')}: links of everything named here, plus links and posts that have it
        themselves.
      </Text>
      <Stack gap="sm">
        {fields.map(({ key, label, data }) => (
          <MultiSelect
            key={key}
            label={label}
            searchable
            hidePickedOptions
            selectFirstOptionOnChange
            readOnly={!mayChange}
            placeholder={pixel[key].length > 0 ? '' : 'none'}
            data={data ?? []}
            value={pixel[key]}
            onChange={(chosen) => attach.mutate({ [key]: chosen })}
          />
        ))}
      </Stack>
      {attach.isError && <Failed error={attach.error} />}
    </section>
  )
}
