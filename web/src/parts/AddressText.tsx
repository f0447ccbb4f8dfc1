import { Fragment } from 'react'
import { addressOf } from './format/addressText'

/** An address without its scheme, which breaks behind its slashes rather than within a word. */
export function AddressText({ url }: { url: string }) {
  const [first, ...rest] = addressOf(url).split('/')
  return (
    <span style={{ overflowWrap: 'anywhere' }}>
      {first}
      {rest.map((part, place) => (
        <Fragment key={place}>
          /<wbr />
          {part}
        </Fragment>
      ))}
    </span>
  )
}
