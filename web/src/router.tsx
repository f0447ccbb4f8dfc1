import type { QueryClient } from '@tanstack/react-query'
import {
  createRootRouteWithContext,
  createRoute,
  createRouter,
  Outlet,
  parseSearchWith,
  redirect,
  stringifySearchWith,
  type ErrorComponentProps,
} from '@tanstack/react-router'
import { Problem } from './api/client'
import { base } from './api/address'
import { ownAddress, sessionQuery } from './features/access/session'
import { periods, readQuestion, type PeriodName } from './features/reports/question/question'
import { readLinksSearch } from './features/links/filter/linksSearch'
import { NotFound } from './parts/NotFound'
import { Failed } from './parts/States'
import { text } from './parts/format/addressText'
import { later } from './parts/later'
import { toLink } from './parts/toLink'
import { Shell } from './shell/Shell'

const root = createRootRouteWithContext<{ queries: QueryClient }>()({ component: Outlet })

const signIn = createRoute({
  getParentRoute: () => root,
  path: '/sign-in',
  validateSearch: (search: Record<string, unknown>): { then?: string } => {
    // Only places of this application: an address elsewhere would make sign-in a springboard for it.
    const then = text(search.then)
    return then?.startsWith('/') && !then.startsWith('//') ? { then } : {}
  },
  component: later('SignInPage', () => import('./features/access/SignInPage').then((m) => m.SignInPage)),
})

const forgottenPassword = createRoute({
  getParentRoute: () => root,
  path: '/forgotten-password',
  component: later('ForgottenPasswordPage', () =>
    import('./features/access/ForgottenPasswordPage').then((m) => m.ForgottenPasswordPage),
  ),
})

const newPassword = createRoute({
  getParentRoute: () => root,
  path: '/new-password',
  component: later('NewPasswordPage', () =>
    import('./features/access/NewPasswordPage').then((m) => m.NewPasswordPage),
  ),
})

const confirmEmail = createRoute({
  getParentRoute: () => root,
  path: '/confirm-email',
  component: later('ConfirmEmailPage', () =>
    import('./features/access/ConfirmEmailPage').then((m) => m.ConfirmEmailPage),
  ),
})

const join = createRoute({
  getParentRoute: () => root,
  path: '/join',
  component: later('JoinPage', () => import('./features/people/JoinPage').then((m) => m.JoinPage)),
})

/** A saved view for people without an account. */
const shared = createRoute({
  getParentRoute: () => root,
  path: '/shared/$secret',
  component: later('SharedViewPage', () =>
    import('./features/reports/views/SharedViewPage').then((m) => m.SharedViewPage),
  ),
})

/** Plain words on what counts and how sure answers are, also for readers of a shared view. */
const howCursusCounts = createRoute({
  getParentRoute: () => root,
  path: '/how-cursus-counts',
  component: later('HowCursusCounts', () =>
    import('./features/reports/HowCursusCounts').then((m) => m.HowCursusCounts),
  ),
})

/** A view that failed, with the way to try it again. */
function FailedView({ error, reset }: Pick<ErrorComponentProps, 'error' | 'reset'>) {
  return (
    <Failed
      error={error as Error}
      onRetry={() => {
        reset()
        void router.invalidate()
      }}
    />
  )
}

/** Everything that only members see. */
const members = createRoute({
  getParentRoute: () => root,
  id: 'members',
  // The link whose QR code is shown beside whatever else is.
  validateSearch: (search: Record<string, unknown>): { qr?: string } => ({ qr: text(search.qr) }),
  beforeLoad: async ({ context, location: { href, pathname } }) => {
    try {
      const session = await context.queries.ensureQueryData(sessionQuery)
      const address = ownAddress(session)
      if (address) {
        location.replace(address)
        // Nothing of the page that is being left is shown any more.
        await new Promise(() => {})
      }
      // Nothing else opens until it is set up.
      if (session.needsTwoSteps && pathname !== '/account') throw redirect({ to: '/account' })
    } catch (error) {
      if (error instanceof Problem && error.status === 401)
        throw redirect({ to: '/sign-in', search: href === '/' ? {} : { then: href } })
      throw error
    }
  },
  component: Shell,
  errorComponent: ({ error, reset }) => (
    <main style={{ maxWidth: 560, margin: '12vh auto', padding: 16 }}>
      <h1 style={{ fontSize: 24 }}>Cursus couldn’t load</h1>
      <FailedView error={error} reset={reset} />
      {error instanceof Problem && error.code === 'no-such-workspace' && (
        <p>
          <a href="/" style={toLink}>
            Go to your workspaces
          </a>
        </p>
      )}
    </main>
  ),
})

const home = createRoute({
  getParentRoute: () => members,
  path: '/',
  beforeLoad: async ({ context }) => {
    const { startPage } = await context.queries.ensureQueryData(sessionQuery)
    throw redirect({ to: `/${startPage}` })
  },
})

const account = createRoute({
  getParentRoute: () => members,
  path: '/account',
  component: later('AccountPage', () => import('./features/account/AccountPage').then((m) => m.AccountPage)),
})

const workspaces = createRoute({
  getParentRoute: () => members,
  path: '/workspaces',
  component: later('WorkspacesPage', () =>
    import('./features/workspace/WorkspacesPage').then((m) => m.WorkspacesPage),
  ),
})

const send = createRoute({
  getParentRoute: () => members,
  path: '/send',
  validateSearch: (search: Record<string, unknown>): { to?: string; draft?: string } => ({
    // A phone that shares a page writes its address into either of the two.
    to: text(search.to) ?? text(search.text)?.match(/https?:\/\/\S+/)?.[0],
    draft: text(search.draft),
  }),
  component: later('SendPage', () => import('./features/posts/send/SendPage').then((m) => m.SendPage)),
})

const many = createRoute({
  getParentRoute: () => members,
  path: '/send/many',
  validateSearch: (search: Record<string, unknown>): { batch?: string } => ({ batch: text(search.batch) }),
  component: later('BatchPage', () => import('./features/batches/BatchPage').then((m) => m.BatchPage)),
})

const post = createRoute({
  getParentRoute: () => members,
  path: '/posts/$postId',
  component: later('PostPage', () => import('./features/posts/handout/PostPage').then((m) => m.PostPage)),
})

const links = createRoute({
  getParentRoute: () => members,
  path: '/links',
  validateSearch: readLinksSearch,
  component: later('LinksPage', () => import('./features/links/list/LinksPage').then((m) => m.LinksPage)),
})

const link = createRoute({
  getParentRoute: () => links,
  path: '$linkId',
  component: later('LinkSheet', () => import('./features/links/sheet/LinkSheet').then((m) => m.LinkSheet)),
})

const compare = createRoute({
  getParentRoute: () => members,
  path: '/compare',
  validateSearch: readQuestion,
  component: later('ComparePage', () =>
    import('./features/reports/compare/ComparePage').then((m) => m.ComparePage),
  ),
})

const campaign = createRoute({
  getParentRoute: () => members,
  path: '/campaigns/$campaignKey',
  validateSearch: (search: Record<string, unknown>): { period?: PeriodName } => {
    const period = text(search.period)
    return period && period in periods ? { period: period as PeriodName } : {}
  },
  component: later('CampaignPage', () =>
    import('./features/reports/CampaignPage').then((m) => m.CampaignPage),
  ),
})

const digest = createRoute({
  getParentRoute: () => members,
  path: '/digest',
  validateSearch: (search: Record<string, unknown>): { week?: string } => {
    const week = text(search.week)
    return week && /^\d{4}-\d{2}-\d{2}$/.test(week) ? { week } : {}
  },
  component: later('DigestPage', () => import('./features/reports/DigestPage').then((m) => m.DigestPage)),
})

const needsAttention = createRoute({
  getParentRoute: () => members,
  path: '/needs-attention',
  validateSearch: (search: Record<string, unknown>): { ignored?: 'yes' } => ({
    ignored: search.ignored === 'yes' ? 'yes' : undefined,
  }),
  component: later('NeedsAttentionPage', () =>
    import('./features/checking/NeedsAttentionPage').then((m) => m.NeedsAttentionPage),
  ),
})

const audiences = createRoute({
  getParentRoute: () => members,
  path: '/audiences',
  component: later('AudiencesPage', () =>
    import('./features/retargeting/AudiencesPage').then((m) => m.AudiencesPage),
  ),
})

const pixel = createRoute({
  getParentRoute: () => members,
  path: '/audiences/$pixelId',
  // Whose visitors the definition is for.
  validateSearch: (search: Record<string, unknown>): { campaign?: string; post?: string; link?: string } => ({
    campaign: text(search.campaign),
    post: text(search.post),
    link: text(search.link),
  }),
  component: later('PixelPage', () => import('./features/retargeting/PixelPage').then((m) => m.PixelPage)),
})

const settings = createRoute({
  getParentRoute: () => members,
  path: '/settings',
})

const settingsHome = createRoute({
  getParentRoute: () => settings,
  path: '/',
  beforeLoad: () => {
    throw redirect({ to: '/settings/$section', params: { section: 'channels' } })
  },
})

const settingsSection = createRoute({
  getParentRoute: () => settings,
  path: '$section',
  component: later('SettingsPage', () =>
    import('./features/settings/SettingsPage').then((m) => m.SettingsPage),
  ),
})

/** Addresses of before, which people have bookmarked. */
const formerSettings = createRoute({
  getParentRoute: () => members,
  path: '/set-up',
  beforeLoad: () => {
    throw redirect({ to: '/settings' })
  },
})

const formerNeedsAttention = createRoute({
  getParentRoute: () => members,
  path: '/needs-care',
  beforeLoad: () => {
    throw redirect({ to: '/needs-attention' })
  },
})

/** Whatever else is asked for, so that people are told within the application, with its menu around. */
const notFound = createRoute({
  getParentRoute: () => members,
  path: '$',
  component: NotFound,
})

export function makeRouter(queries: QueryClient) {
  return createRouter({
    routeTree: root.addChildren([
      signIn,
      forgottenPassword,
      newPassword,
      confirmEmail,
      join,
      shared,
      howCursusCounts,
      members.addChildren([
        home,
        send,
        many,
        post,
        links.addChildren([link]),
        needsAttention,
        compare,
        campaign,
        digest,
        audiences,
        pixel,
        account,
        workspaces,
        settings.addChildren([settingsHome, settingsSection]),
        formerSettings,
        formerNeedsAttention,
        notFound,
      ]),
    ]),
    context: { queries },
    basepath: base || '/',
    defaultPreload: 'intent',
    scrollRestoration: true,
    // What a view's own reading of the address passes over must not reach it by another way.
    search: { strict: true },
    // Addresses that people can read and type, instead of the router's JSON.
    parseSearch: parseSearchWith((value) => value),
    stringifySearch: stringifySearchWith((value) => String(value)),
    // Within what stands around the view, so that the places still lead on.
    defaultErrorComponent: FailedView,
    defaultNotFoundComponent: NotFound,
  })
}

let router: ReturnType<typeof makeRouter>

/** Keeps the one router for views that have to reload it. */
export function startRouter(queries: QueryClient) {
  router = makeRouter(queries)
  return router
}

declare module '@tanstack/react-router' {
  interface Register {
    router: ReturnType<typeof makeRouter>
  }
}
