import { Button, Checkbox, Popover, Stack, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { cloneElement, useState, type ReactElement } from 'react'
import { api, read, wordsOf } from '../../../api/client'
import { asKept } from '../question/keptQuestion'
import type { Question } from '../question/question'

interface Props {
  question: Question
  /** The button that opens it. */
  children: ReactElement<{ onClick?: () => void }>
}

/** Keeps the question under a name. */
export function SaveView({ question, children }: Props) {
  const [isOpen, setIsOpen] = useState(false)
  const queries = useQueryClient()
  const form = useForm({ initialValues: { name: '', isPinned: true } })
  const keep = useMutation({
    mutationFn: (body: typeof form.values) =>
      read(api.POST('/api/v1/views', { body: { ...body, question: asKept(question) } })),
    onSuccess: async () => {
      form.reset()
      setIsOpen(false)
      await queries.invalidateQueries({ queryKey: ['views'] })
    },
  })
  return (
    <Popover
      opened={isOpen}
      onChange={setIsOpen}
      position="bottom-end"
      width={300}
      trapFocus
      withRoles={false}
    >
      <Popover.Target>{cloneElement(children, { onClick: () => setIsOpen((open) => !open) })}</Popover.Target>
      <Popover.Dropdown>
        <form onSubmit={form.onSubmit((values) => keep.mutate(values))}>
          <Stack gap="sm">
            <TextInput
              label="View name"
              placeholder="Winter members, by channel"
              required
              data-autofocus
              {...form.getInputProps('name')}
              error={keep.error && wordsOf(keep.error)}
            />
            <Checkbox
              label="Pin to the top of Compare"
              {...form.getInputProps('isPinned', { type: 'checkbox' })}
            />
            <Button type="submit" loading={keep.isPending}>
              Save
            </Button>
          </Stack>
        </form>
      </Popover.Dropdown>
    </Popover>
  )
}
