import { Button, Group, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { fieldErrors } from '../../api/client'
import { counted } from '../../parts/format/numbers'
import { Failed } from '../../parts/States'
import { useBulkChange } from '../links/bulk/useBulkChange'
import type { CarePage } from './checks'

interface Props {
  page: CarePage
  what: 'replace' | 'meanwhile'
  onDone: () => void
}

/** Gives all links to a page another destination, or a fallback for as long as it is dead. It can be taken back like every change of many. */
export function LeadElsewhere({ page, what, onDone }: Props) {
  const change = useBulkChange()
  const isMeanwhile = what === 'meanwhile'
  const form = useForm({
    initialValues: {
      address: isMeanwhile
        ? (page.fallbacks[0] ?? '')
        : page.verdict === 'redirected'
          ? (page.leadsTo ?? '')
          : '',
    },
  })
  const save = ({ address }: { address: string }) =>
    change.mutate(
      {
        links: { filter: { page: page.id, state: 'all' }, expected: page.links },
        change: isMeanwhile ? { fallback: address } : { destination: address },
      },
      {
        onSuccess: onDone,
        onError: (error) => {
          const { destination, fallback } = fieldErrors(error)
          form.setErrors({ address: destination ?? fallback })
        },
      },
    )
  return (
    <form onSubmit={form.onSubmit(save)}>
      <Group gap={8} mt={10} align="end">
        <TextInput
          label={
            isMeanwhile
              ? 'Where visitors go until the page is back'
              : `New destination of ${counted(page.links, 'link')}`
          }
          style={{ flex: 1 }}
          miw={240}
          autoFocus
          required={!isMeanwhile}
          placeholder={isMeanwhile ? 'none (visitors reach the broken page)' : undefined}
          {...form.getInputProps('address')}
        />
        <Button type="submit" loading={change.isPending}>
          {isMeanwhile ? 'Use this fallback' : `Change ${counted(page.links, 'link')}`}
        </Button>
      </Group>
      {change.isError && !form.errors.address && <Failed error={change.error} />}
    </form>
  )
}
