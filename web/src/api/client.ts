import createClient, { type Middleware } from 'openapi-fetch'
import { base } from './address'
import { fileName } from './fileName'
import type { components, paths } from './schema'

export type Schema = components['schemas']

/** An error of the API or of the way to it: what happened, why, and what to do next. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly errors: Readonly<Record<string, string[]>> = {},
  ) {
    super(message)
  }
}

/** Nobody answered. */
export const unreachable = () =>
  new Problem(
    0,
    'unreachable',
    'Can’t reach Cursus. It may have been stopped, or you may be offline. Nothing you typed is lost. Try again in a moment.',
  )

export const isUnreachable = (error: Error) => error instanceof Problem && error.code === 'unreachable'

/** Whether the same request may well succeed a little later. */
export const passes = ({ status, code }: Problem) =>
  status === 0 || status === 429 || (status === 503 && code !== 'took-too-long')

/** What to tell a person about an error: where fields are at fault, what is wrong with them. */
export function wordsOf(error: Error): string {
  if (!(error instanceof Problem))
    return 'Something went wrong on this page. Reload it. Anything you saved is safe.'
  const texts = Object.values(error.errors).flat()
  return texts.length > 0 ? texts.join(' ') : error.message
}

/** What is wrong, by field, as a form shows it; empty where no field is at fault. */
export const fieldErrors = (error: Error): Record<string, string> =>
  error instanceof Problem
    ? Object.fromEntries(Object.entries(error.errors).map(([field, texts]) => [field, texts.join(' ')]))
    : {}

let csrfToken = ''

/** Remembers the token that goes with each request that changes something. */
export function rememberCsrfToken(token: string) {
  csrfToken = token
}

const withCsrf: Middleware = {
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRF-Token', csrfToken)
    return request
  },
}

/** The API within the workspace whose addresses begin with this. */
export function apiBelow(base: string) {
  const client = createClient<paths>({ baseUrl: location.origin + base })
  client.use(withCsrf)
  return client
}

export const api = apiBelow(base)

/** A file as the body of a request, sent as it is; the description of the API knows bodies as text only. */
export const asFile = (file: Blob, type = 'application/octet-stream') => ({
  body: file as unknown as string,
  bodySerializer: (body: unknown) => body as Blob,
  headers: { 'Content-Type': type },
})

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

/** The answer's data, or a {@link Problem} thrown. */
export async function read<T>(answer: Promise<Answer<T>>): Promise<T> {
  let settled: Answer<T>
  try {
    settled = await answer
  } catch {
    throw unreachable()
  }
  if (settled.response.ok) return settled.data as T
  throw asProblem(settled.response.status, settled.error)
}

/** A file with the name that the server gives it, or a {@link Problem} thrown. */
export const readFile = (address: string) =>
  read(
    fetch(address).then(async (response) =>
      response.ok
        ? {
            response,
            data: {
              file: await response.blob(),
              name:
                fileName(response.headers.get('Content-Disposition') ?? '') ??
                address.replace(/.*\/|\?.*/g, ''),
            },
          }
        : { response, error: (await response.json().catch(() => undefined)) as unknown },
    ),
  )

function asProblem(status: number, body: unknown): Problem {
  const problem = (typeof body === 'object' && body !== null ? body : {}) as {
    code?: string
    detail?: string
    errors?: Record<string, string[]>
  }
  return new Problem(
    status,
    problem.code ?? `status-${status}`,
    problem.detail ??
      `The server answered with ${status}. Try again. If it keeps happening, check the server log.`,
    problem.errors,
  )
}
