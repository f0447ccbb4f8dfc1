import { Anchor } from '@mantine/core'
import { Link, Outlet } from '@tanstack/react-router'
import { CodeDrawer } from '../features/codes/CodeDrawer'
import { LivePulse } from '../features/clicks/LivePulse'
import { AccountMenu } from './AccountMenu'
import { AddressBar } from './AddressBar'
import { ConditionBanner } from './ConditionBanner'
import { usePasteAnywhere } from './usePasteAnywhere'
import { Wordmark } from './Wordmark'
import { WorkspaceBanner } from './WorkspaceBanner'
import { WorkspaceMenu } from './WorkspaceMenu'
import classes from './Shell.module.css'

/** The places, in the order in which the work is done. */
const places = [
  { to: '/send', label: 'Send' },
  { to: '/links', label: 'Links' },
  { to: '/compare', label: 'Compare' },
  { to: '/audiences', label: 'Audiences' },
  { to: '/settings', label: 'Settings' },
] as const

/** What stands around every view: the places, the address bar, the account. */
export function Shell() {
  usePasteAnywhere()
  return (
    <>
      <Anchor href="#content" className={classes.skip}>
        Skip to content
      </Anchor>
      <header className={classes.header}>
        <Link to="/send" aria-label="Cursus, new post" className={classes.home}>
          <Wordmark />
        </Link>
        <nav aria-label="Main menu" className={classes.places}>
          {places.map((place) => (
            <Link
              key={place.to}
              to={place.to}
              className={classes.place}
              activeProps={{ 'aria-current': 'page' }}
              activeOptions={{ includeSearch: false }}
            >
              {place.label}
            </Link>
          ))}
        </nav>
        <WorkspaceMenu />
        <AddressBar />
        <LivePulse />
        <AccountMenu />
      </header>
      <ConditionBanner />
      <WorkspaceBanner />
      <main id="content" tabIndex={-1} className={classes.content}>
        <Outlet />
      </main>
      <CodeDrawer />
    </>
  )
}
