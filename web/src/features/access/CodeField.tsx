import { TextInput, type TextInputProps } from '@mantine/core'

/** A field for the second step of signing in. */
export const CodeField = (props: TextInputProps) => (
  <TextInput
    label="Code"
    description="From your authenticator app, or a recovery code"
    autoComplete="one-time-code"
    maxLength={20}
    required
    {...props}
  />
)
