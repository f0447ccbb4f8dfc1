/** A finished address, cut down to what tells it from the others of the same post. */
export interface DifferingAddress {
  /** The parameters that not all of them have, each as name=value; all of them where there is just one address. */
  parameters: string[]
  /** Whether parameters were left out because all have them. */
  isShortened: boolean
}

/** What differs between the finished addresses of a post, in their order. */
export function differing(urls: string[]): DifferingAddress[] {
  const all = urls.map(parametersOf)
  const [first, ...others] = all
  const shared =
    others.length === 0 ? [] : first!.filter((one) => others.every((parameters) => parameters.includes(one)))
  return all.map((parameters) => {
    const own = parameters.filter((one) => !shared.includes(one))
    return { parameters: own, isShortened: own.length < parameters.length }
  })
}

function parametersOf(url: string) {
  const [address = ''] = url.split('#')
  const mark = address.indexOf('?')
  return mark < 0 || mark === address.length - 1 ? [] : address.slice(mark + 1).split('&')
}
