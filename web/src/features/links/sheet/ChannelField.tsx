import { Select } from '@mantine/core'
import type { UseFormReturnType } from '@mantine/form'
import { useChannels } from '../../../api/vocabulary'
import type { LinkValues } from './linkValues'
import type { Link } from '../links'

interface Props {
  link: Link
  form: UseFormReturnType<LinkValues>
}

/** The channel that a link's clicks are counted for. Source and medium go along where they were the former channel's. */
export function ChannelField({ link, form }: Props) {
  const channels = useChannels()
  const { channel, source, medium } = form.values
  const change = (key: string | null) => {
    const [former, next] = [channels.get(channel ?? ''), channels.get(key ?? '')]
    form.setFieldValue('channel', key)
    if (next && former && source === former.source) form.setFieldValue('source', next.source)
    if (next && former && medium === former.medium) form.setFieldValue('medium', next.medium)
  }
  return (
    <Select
      label="Channel"
      description={
        channel !== link.channel ? 'All its clicks, including past ones, count for this channel' : undefined
      }
      inputWrapperOrder={['label', 'input', 'description', 'error']}
      placeholder="none"
      searchable
      clearable={!link.post}
      data={[...channels.values()]
        .filter((c) => !c.retiredAt || c.key === link.channel)
        .map((c) => ({ value: c.key, label: c.name }))}
      value={channel}
      error={form.errors.channel}
      onChange={change}
    />
  )
}
