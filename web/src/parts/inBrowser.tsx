import { MantineProvider } from '@mantine/core'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import {
  createMemoryHistory,
  createRootRoute,
  createRoute,
  createRouter,
  RouterProvider,
} from '@tanstack/react-router'
import { cleanup, configure, render } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import type { Middleware } from 'openapi-fetch'
import type { ReactNode } from 'react'
import { afterEach } from 'vitest'
import { api } from '../api/client'

/** A request that a component made: its method and path, and its body where it had one. */
export interface Asked {
  what: string
  body: unknown
}

/** Answers by method and path, such as 'GET /api/v1/channels'; what is not listed is answered with 404. */
export type Answers = Record<string, unknown>

// Browsers have these; the tests' DOM lays nothing out and has no use for them.
const nothing = () => {}
Object.assign(window, {
  matchMedia: (query: string) => ({
    matches: false,
    media: query,
    addEventListener: nothing,
    removeEventListener: nothing,
  }),
  scrollTo: nothing,
  ResizeObserver: class {
    observe = nothing
    unobserve = nothing
    disconnect = nothing
  },
})
Element.prototype.scrollIntoView = nothing

// What is waited for comes when it comes, on a busy machine too.
configure({ asyncUtilTimeout: 30_000 })

let server: Middleware | undefined

afterEach(() => {
  cleanup()
  if (server) api.eject(server)
})

/** Shows a component as the application would, with a server that answers as told. Returns who uses it, what was asked, and the address. */
export async function inBrowser(component: () => ReactNode, answers: Answers = {}) {
  const asked: Asked[] = []
  server = {
    async onRequest({ request }) {
      const what = `${request.method} ${new URL(request.url).pathname}`
      const text = await request.clone().text()
      asked.push({ what, body: text === '' ? undefined : JSON.parse(text) })
      const answer = answers[what]
      if (answer instanceof Response) return answer.clone()
      return answer === undefined
        ? Response.json({ code: 'not-found', detail: 'Nothing here.' }, { status: 404 })
        : Response.json(answer)
    },
  }
  api.use(server)
  const root = createRootRoute()
  const anywhere = createRoute({ getParentRoute: () => root, path: '$', component })
  const router = createRouter({
    routeTree: root.addChildren([anywhere]),
    history: createMemoryHistory({ initialEntries: ['/here'] }),
  })
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } })
  await router.load()
  render(
    <MantineProvider env="test">
      <QueryClientProvider client={queries}>
        <RouterProvider router={router as never} />
      </QueryClientProvider>
    </MantineProvider>,
  )
  return { user: userEvent.setup(), asked, address: () => router.state.location.href }
}

/** A refusal of the API, as its errors are. */
export const refused = (errors: Record<string, string[]>) =>
  Response.json({ code: 'invalid', detail: 'Some fields need correcting.', errors }, { status: 422 })
