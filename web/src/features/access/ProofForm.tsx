import { Button, Group, PasswordInput, Stack, TextInput, type TextInputProps } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation } from '@tanstack/react-query'
import { fieldErrors } from '../../api/client'
import { FormError } from '../../parts/FormError'

/** What is typed: the password, and a name where one is asked for. */
export interface Proof {
  password: string
  name: string
}

interface Props<Answer> {
  /** What it is for; the form’s name too. */
  title: string
  submit: string
  color?: string
  /** A name that is asked for as well. */
  name?: Pick<TextInputProps, 'label' | 'description' | 'placeholder' | 'maxLength'>
  run: (proof: Proof) => Promise<Answer>
  onDone: (answer: Answer) => void
  onCancel: () => void
}

/** Asks for the password before something that nobody should do in passing at somebody else’s desk. */
export function ProofForm<Answer>({ title, submit, color, name, run, onDone, onCancel }: Props<Answer>) {
  const form = useForm<Proof>({ initialValues: { password: '', name: '' } })
  const act = useMutation({
    mutationFn: run,
    onSuccess: onDone,
    onError: (error) => form.setErrors(fieldErrors(error)),
  })
  return (
    <form
      aria-label={title}
      style={{ width: '100%', maxWidth: 420 }}
      onSubmit={form.onSubmit((values) => act.mutate(values))}
    >
      <Stack gap="sm">
        {name && (
          <TextInput autoComplete="off" autoFocus required {...name} {...form.getInputProps('name')} />
        )}
        <PasswordInput
          label="Your password"
          autoComplete="current-password"
          autoFocus={!name}
          required
          {...form.getInputProps('password')}
        />
        <FormError error={act.error} form={form} />
        <Group gap={8}>
          <Button type="submit" color={color} loading={act.isPending}>
            {submit}
          </Button>
          <Button variant="default" onClick={onCancel}>
            Cancel
          </Button>
        </Group>
      </Stack>
    </form>
  )
}
