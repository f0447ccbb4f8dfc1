import { Problem, unreachable } from './client'

/** As the three engines and the bundler word that code could not be fetched; what went wrong in the code itself has other words. */
const isMissing = (error: unknown) =>
  /dynamically imported module|importing a module script failed|unable to preload css/i.test(String(error))

/** Whether this page is older than the server, which has the code of its views no longer. */
export const isOutdated = (error: Error) => error instanceof Problem && error.code === 'outdated'

/** Code of a view, or a {@link Problem} thrown where it can't be fetched. */
export async function fetchCode<T>(load: () => Promise<T>): Promise<T> {
  try {
    return await load()
  } catch (error) {
    if (!isMissing(error)) throw error
    throw (await isAnswering())
      ? new Problem(
          0,
          'outdated',
          'Cursus has been updated since you opened this page. Reload to continue. Anything you saved is safe.',
        )
      : unreachable()
  }
}

const isAnswering = () =>
  fetch('/readyz').then(
    () => true,
    () => false,
  )
