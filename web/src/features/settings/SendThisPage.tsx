import { within } from '../../api/address'
import { Text } from '@mantine/core'

/** A bookmark that begins a post with the page one is looking at, to be dragged to the bookmarks bar. */
export function SendThisPage() {
  const script = `javascript:void(location.href='${location.origin}${within('/send')}?to='+encodeURIComponent(location.href))`
  return (
    <>
      <Text c="dimmed" mb="sm" maw={720}>
        Drag this to your bookmarks bar. Click it on any page to start a post with that page. On a phone, add
        Cursus to the home screen to find it in the share menu.
      </Text>
      <a
        // React does not set such addresses; this one is meant to be dragged away, not followed.
        ref={(anchor) => anchor?.setAttribute('href', script)}
        onClick={(event) => event.preventDefault()}
        style={{
          display: 'inline-block',
          padding: '8px 16px',
          borderRadius: 8,
          border: '1px dashed var(--mantine-color-anchor)',
          color: 'var(--mantine-color-anchor)',
          textDecoration: 'none',
          fontWeight: 600,
        }}
      >
        Send this page
      </a>
    </>
  )
}
