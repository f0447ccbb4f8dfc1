import { PasswordInput, type PasswordInputProps } from '@mantine/core'

/** A field for a password that is chosen now. The server knows which may not be. */
export const NewPasswordField = (props: PasswordInputProps) => (
  <PasswordInput
    label="Password"
    description="At least ten characters. A few words in a row are easy to remember."
    autoComplete="new-password"
    required
    {...props}
  />
)
