import { Text, Title } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import { Page } from '../../parts/Page'
import { Failed, Loading } from '../../parts/States'
import { useSession } from '../access/session'
import classes from './Account.module.css'
import { accountQuery } from './account'
import { DeleteAccount } from './DeleteAccount'
import { EmailForm } from './EmailForm'
import { PasswordForm } from './PasswordForm'
import { ProfileForm } from './ProfileForm'
import { SignInsList } from './SignInsList'
import { TwoStepPart } from './twostep/TwoStepPart'

/** What belongs to the person and not to a workspace: name, address, password, and where they are signed in. */
export function AccountPage() {
  const account = useQuery(accountQuery)
  // What somebody must do before anything else comes first, and stays there when it is done: its recovery codes are on screen.
  const session = useSession()
  const [needsTwoSteps] = useState(session?.needsTwoSteps)
  return (
    <Page title="Your account">
      {account.isPending && <Loading />}
      {account.isError && <Failed error={account.error} onRetry={() => void account.refetch()} />}
      {account.data && (
        <div>
          {needsTwoSteps && <TwoSteps />}
          <Part title="Profile">
            <ProfileForm key={JSON.stringify(account.data)} account={account.data} />
          </Part>
          <Part title="E-mail address" about="You sign in with it.">
            <EmailForm account={account.data} />
          </Part>
          <Part title="Password" about="Changing it signs you out in all other browsers.">
            <PasswordForm />
          </Part>
          {!needsTwoSteps && <TwoSteps />}
          <Part
            title="Where you’re signed in"
            about="A browser that isn’t used for 30 days is signed out. If you don’t know one of these, sign it out and change your password."
          >
            <SignInsList />
          </Part>
          <Part
            title="Delete your account"
            about="Your name, address and sign-ins are deleted. Links and posts you made stay in their workspaces."
          >
            <DeleteAccount />
          </Part>
        </div>
      )}
    </Page>
  )
}

const TwoSteps = () => (
  <Part
    title="Two-step sign-in"
    about="With a passkey, or a code from your phone besides the password, nobody gets in who only knows your password."
  >
    <TwoStepPart />
  </Part>
)

function Part({ title, about, children }: { title: string; about?: string; children: ReactNode }) {
  return (
    <section aria-label={title} className={classes.part}>
      <div>
        <Title order={2} size={18} mb={4}>
          {title}
        </Title>
        {about && (
          <Text c="dimmed" size="sm">
            {about}
          </Text>
        )}
      </div>
      <div>{children}</div>
    </section>
  )
}
