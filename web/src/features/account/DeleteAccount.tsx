import { Button } from '@mantine/core'
import { useState } from 'react'
import { api, read } from '../../api/client'
import { ProofForm } from '../access/ProofForm'

/** Deletes the account, for which the password is asked: nothing brings it back. */
export function DeleteAccount() {
  const [isOpen, setIsOpen] = useState(false)
  if (!isOpen)
    return (
      <Button variant="default" onClick={() => setIsOpen(true)}>
        Delete account
      </Button>
    )
  return (
    <ProofForm
      title="Delete account"
      submit="Delete account for good"
      color="red"
      run={({ password }) => read(api.POST('/api/v1/account/delete', { body: { password } }))}
      onDone={() => location.assign('/sign-in')}
      onCancel={() => setIsOpen(false)}
    />
  )
}
