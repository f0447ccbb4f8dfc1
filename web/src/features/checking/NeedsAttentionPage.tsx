import { Alert, Button, Group, Text } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link, useSearch } from '@tanstack/react-router'
import { count, counted, day, timeOf } from '../../parts/format/numbers'
import { Page } from '../../parts/Page'
import { Empty, Failed, Loading } from '../../parts/States'
import { toLink } from '../../parts/toLink'
import classes from './Attention.module.css'
import { AttentionEntry } from './AttentionEntry'
import { careQuery, checkSummaryQuery } from './checks'

/** The pages behind links that are dead, have moved or say something else, those whose visitors are most first. */
export function NeedsAttentionPage() {
  const { ignored } = useSearch({ from: '/members/needs-attention' })
  const found = useQuery(careQuery(ignored === 'yes'))
  const summary = useQuery(checkSummaryQuery)
  const title = ignored ? 'Ignored for now' : 'Needs attention'
  // How the check stands is above the list, which would move if it came later.
  if (found.isPending || summary.isPending)
    return (
      <Page title={title}>
        <Loading />
      </Page>
    )
  return (
    <Page title={title} beside={<Other ignored={ignored} />}>
      <Standing />
      {!ignored &&
        summary.data?.certificates.map((certificate) => (
          <Alert key={certificate.domain} variant="default" color="red" my="sm" role="status">
            The certificate of <b>{certificate.domain}</b> ends on {day(certificate.endsAt.slice(0, 10))}.
            After that, browsers will warn visitors. Ask whoever runs the server in front of Cursus to renew
            it.
          </Alert>
        ))}
      {found.isError && <Failed error={found.error} onRetry={() => void found.refetch()} />}
      {found.data?.total === 0 && (ignored ? <NoneIgnored /> : <AllWell />)}
      {found.data && found.data.total > 0 && (
        <ul className={classes.list} aria-label="Pages">
          {found.data.items.map((page) => (
            <AttentionEntry key={page.id} page={page} />
          ))}
        </ul>
      )}
      {found.data && found.data.total > found.data.items.length && (
        <Text c="dimmed" size="sm">
          And {count(found.data.total - found.data.items.length)} more, with fewer clicks.
        </Text>
      )}
    </Page>
  )
}

/** The way to the ignored ones, and back. */
function Other({ ignored }: { ignored: 'yes' | undefined }) {
  const summary = useQuery(checkSummaryQuery)
  if (!ignored && !summary.data?.ignored) return null
  return (
    <Button
      variant="default"
      renderRoot={(props) => (
        <Link to="/needs-attention" search={{ ignored: ignored ? undefined : 'yes' }} {...props} />
      )}
    >
      {ignored ? 'Needs attention' : `Ignored: ${count(summary.data!.ignored)}`}
    </Button>
  )
}

/** How the check stands, in a line. */
function Standing() {
  const summary = useQuery(checkSummaryQuery)
  if (!summary.data) return null
  const { isOn, pages, lastCheckedAt } = summary.data
  if (!isOn)
    return (
      <Text c="dimmed" mt={-10} mb="md">
        Link checking is off, so new problems won’t be found.{' '}
        <Link to="/settings/$section" params={{ section: 'link-check' }} style={toLink}>
          Settings
        </Link>
      </Text>
    )
  const all = Object.values(pages).reduce((sum, n) => sum + n, 0)
  const parts = [
    `Links point to ${counted(all, 'page')}`,
    pages.notYet > 0 && `${count(pages.notYet)} not checked yet`,
    pages.closed > 0 && `${counted(pages.closed, 'blocks', 'block')} checkers`,
    lastCheckedAt && `last checked ${timeOf(lastCheckedAt)}`,
  ]
  return (
    <Text c="dimmed" mt={-10} mb="md">
      {parts.filter(Boolean).join(', ')}.
    </Text>
  )
}

const AllWell = () => (
  <Empty
    title="All pages are working"
    action={
      <Group>
        <Button variant="default" renderRoot={(props) => <Link to="/links" {...props} />}>
          Go to links
        </Button>
      </Group>
    }
  >
    Every destination page is checked daily, and straight after a change. Broken, moved and changed pages are
    listed here.
  </Empty>
)

const NoneIgnored = () => (
  <Empty
    title="Nothing ignored"
    action={
      <Button variant="default" renderRoot={(props) => <Link to="/needs-attention" {...props} />}>
        Needs attention
      </Button>
    }
  >
    Pages you ignore are listed here, and come back automatically.
  </Empty>
)
