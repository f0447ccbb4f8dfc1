/** What stands before all addresses of this tab: `/w/KEY` where it shows one workspace of several, else nothing. */
export const base = /^\/w\/[^/]+/.exec(location.pathname)?.[0] ?? ''

/** The base of another workspace’s addresses. */
export const baseOf = (key: string) => `/w/${key}`

/** An address of the server, such as `/api/v1/archive`, within this tab’s workspace. */
export const within = (path: string) => base + path
