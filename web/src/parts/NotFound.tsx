import { Button } from '@mantine/core'
import { Link } from '@tanstack/react-router'
import { Page } from './Page'
import { Empty } from './States'

/** An address that nothing stands at, inside the application so that its menu leads on. */
export function NotFound() {
  return (
    <Page title="Page not found">
      <Empty
        title="There is nothing at this address"
        action={
          <Button component={Link} to="/links">
            Go to links
          </Button>
        }
      >
        It may be mistyped, or what was here may have been deleted. Use the menu or the search above.
      </Empty>
    </Page>
  )
}
