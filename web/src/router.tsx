import type { QueryClient } from '@tanstack/react-query'
import {
  createRootRouteWithContext,
  createRoute,
  createRouter,
  lazyRouteComponent,
  Outlet,
  parseSearchWith,
  redirect,
  stringifySearchWith,
} from '@tanstack/react-router'
import { Problem } from './api/client'
import { sessionQuery } from './features/access/session'
import { periods, readQuestion, type PeriodName } from './features/comparing/question'
import { readLinksSearch } from './features/links/linksSearch'
import { Failed } from './parts/States'
import { text } from './parts/addressText'
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
  component: lazyRouteComponent(() => import('./features/access/SignInPage'), 'SignInPage'),
})

/** A saved view for people without an account. */
const shared = createRoute({
  getParentRoute: () => root,
  path: '/shared/$secret',
  component: lazyRouteComponent(() => import('./features/comparing/SharedViewPage'), 'SharedViewPage'),
})

/** Everything that only members see. */
const members = createRoute({
  getParentRoute: () => root,
  id: 'members',
  // The link whose QR code is shown beside whatever else is.
  validateSearch: (search: Record<string, unknown>): { qr?: string } => ({ qr: text(search.qr) }),
  beforeLoad: async ({ context, location }) => {
    try {
      await context.queries.ensureQueryData(sessionQuery)
    } catch (error) {
      if (error instanceof Problem && error.status === 401)
        throw redirect({ to: '/sign-in', search: location.href === '/' ? {} : { then: location.href } })
      throw error
    }
  },
  component: Shell,
  errorComponent: ({ error, reset }) => (
    <main style={{ maxWidth: 560, margin: '12vh auto', padding: 16 }}>
      <h1 style={{ fontSize: 24 }}>Cursus could not be opened</h1>
      <Failed
        error={error as Error}
        onRetry={() => {
          reset()
          void router.invalidate()
        }}
      />
    </main>
  ),
})

const home = createRoute({
  getParentRoute: () => members,
  path: '/',
  beforeLoad: () => {
    throw redirect({ to: '/send' })
  },
})

const send = createRoute({
  getParentRoute: () => members,
  path: '/send',
  validateSearch: (search: Record<string, unknown>): { to?: string; draft?: string } => ({
    // A phone that shares a page writes its address into either of the two.
    to: text(search.to) ?? text(search.text)?.match(/https?:\/\/\S+/)?.[0],
    draft: text(search.draft),
  }),
  component: lazyRouteComponent(() => import('./features/posts/SendPage'), 'SendPage'),
})

const many = createRoute({
  getParentRoute: () => members,
  path: '/send/many',
  validateSearch: (search: Record<string, unknown>): { batch?: string } => ({ batch: text(search.batch) }),
  component: lazyRouteComponent(() => import('./features/batches/BatchPage'), 'BatchPage'),
})

const post = createRoute({
  getParentRoute: () => members,
  path: '/posts/$postId',
  component: lazyRouteComponent(() => import('./features/posts/PostPage'), 'PostPage'),
})

const links = createRoute({
  getParentRoute: () => members,
  path: '/links',
  validateSearch: readLinksSearch,
  component: lazyRouteComponent(() => import('./features/links/LinksPage'), 'LinksPage'),
})

const link = createRoute({
  getParentRoute: () => links,
  path: '$linkId',
  component: lazyRouteComponent(() => import('./features/links/LinkSheet'), 'LinkSheet'),
})

const compare = createRoute({
  getParentRoute: () => members,
  path: '/compare',
  validateSearch: readQuestion,
  component: lazyRouteComponent(() => import('./features/comparing/ComparePage'), 'ComparePage'),
})

const campaign = createRoute({
  getParentRoute: () => members,
  path: '/campaigns/$campaignKey',
  validateSearch: (search: Record<string, unknown>): { period?: PeriodName } => {
    const period = text(search.period)
    return period && period in periods ? { period: period as PeriodName } : {}
  },
  component: lazyRouteComponent(() => import('./features/comparing/CampaignPage'), 'CampaignPage'),
})

const digest = createRoute({
  getParentRoute: () => members,
  path: '/digest',
  validateSearch: (search: Record<string, unknown>): { week?: string } => {
    const week = text(search.week)
    return week && /^\d{4}-\d{2}-\d{2}$/.test(week) ? { week } : {}
  },
  component: lazyRouteComponent(() => import('./features/comparing/DigestPage'), 'DigestPage'),
})

const needsCare = createRoute({
  getParentRoute: () => members,
  path: '/needs-care',
  validateSearch: (search: Record<string, unknown>): { ignored?: 'yes' } => ({
    ignored: search.ignored === 'yes' ? 'yes' : undefined,
  }),
  component: lazyRouteComponent(() => import('./features/checking/NeedsCarePage'), 'NeedsCarePage'),
})

const audiences = createRoute({
  getParentRoute: () => members,
  path: '/audiences',
  component: lazyRouteComponent(() => import('./features/retargeting/AudiencesPage'), 'AudiencesPage'),
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
  component: lazyRouteComponent(() => import('./features/retargeting/PixelPage'), 'PixelPage'),
})

const setUp = createRoute({
  getParentRoute: () => members,
  path: '/set-up',
  validateSearch: (search: Record<string, unknown>): { part?: string } => ({ part: text(search.part) }),
  component: lazyRouteComponent(() => import('./features/setup/SetUpPage'), 'SetUpPage'),
})

export function makeRouter(queries: QueryClient) {
  return createRouter({
    routeTree: root.addChildren([
      signIn,
      shared,
      members.addChildren([
        home,
        send,
        many,
        post,
        links.addChildren([link]),
        needsCare,
        compare,
        campaign,
        digest,
        audiences,
        pixel,
        setUp,
      ]),
    ]),
    context: { queries },
    defaultPreload: 'intent',
    scrollRestoration: true,
    // What a view's own reading of the address passes over must not reach it by another way.
    search: { strict: true },
    // Addresses that people can read and type, instead of the router's JSON.
    parseSearch: parseSearchWith((value) => value),
    stringifySearch: stringifySearchWith((value) => String(value)),
    defaultNotFoundComponent: () => (
      <div style={{ padding: 28 }}>
        <h1>There is no such page</h1>
        <p>The address may be mistyped. The places above lead on.</p>
      </div>
    ),
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
