import { Button, Group, Switch, Text } from '@mantine/core'
import { notifications } from '@mantine/notifications'
import { IconChevronLeft, IconChevronRight } from '@tabler/icons-react'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link, useSearch } from '@tanstack/react-router'
import { useEffect } from 'react'
import { api, read, type Schema } from '../../api/client'
import { day } from '../../parts/format/numbers'
import { Page } from '../../parts/Page'
import { Failed, Loading } from '../../parts/States'
import classes from './Digest.module.css'

type Digest = Schema['DigestReportResponse']
type Line = Schema['DigestLine']

/** What a week brought, to be read in a minute: what led, what changed, what is too close to call, what died. */
export function DigestPage() {
  const { week } = useSearch({ from: '/members/digest' })
  const digest = useQuery({
    queryKey: ['digest', week],
    queryFn: () => read(api.GET('/api/v1/reports/digest', { params: { query: { week } } })),
  })
  useReadMark(week === undefined && digest.isSuccess)
  if (digest.isError)
    return (
      <Page title="Digest">
        <Failed error={digest.error} onRetry={() => void digest.refetch()} />
      </Page>
    )
  if (!digest.data)
    return (
      <Page title="Digest">
        <Loading />
      </Page>
    )
  const { from, to, timeZone, sections } = digest.data
  return (
    <Page title={`The week of ${day(from)}`} beside={<Weeks from={from} />}>
      <Text c="dimmed" mt={-10} mb="md">
        {day(from)} to {day(to)}, {timeZone}, compared with the week before. Do more of what leads clearly;
        where it is too close to call, wait for more posts.
      </Text>
      <div className={classes.sections}>
        {sections.map((section) => (
          <section key={section.heading} className={classes.section} aria-label={section.heading}>
            <h2>{section.heading}</h2>
            <ul>
              {section.lines.map((line) => (
                <li key={line.text}>
                  <LineText line={line} from={from} to={to} />
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
      <ByMail digest={digest.data} week={week} />
    </Page>
  )
}

/** Notes that last week’s digest has been on screen, for the overview of workspaces. */
function useReadMark(isRead: boolean) {
  const queries = useQueryClient()
  const { mutate } = useMutation({
    mutationFn: () => read(api.POST('/api/v1/reports/digest/read')),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['workspaces'] }),
  })
  useEffect(() => {
    if (isRead) mutate()
  }, [isRead, mutate])
}

function LineText({ line, from, to }: { line: Line; from: string; to: string }) {
  if (line.by === 'post' && line.key)
    return (
      <Link to="/posts/$postId" params={{ postId: line.key }}>
        {line.text}
      </Link>
    )
  if (line.by === 'channel' && line.key)
    return (
      <Link to="/compare" search={{ by: 'post', channel: line.key, from, to }}>
        {line.text}
      </Link>
    )
  if (line.by === 'care') return <Link to="/needs-attention">{line.text}</Link>
  return line.text
}

/** A day some weeks on, as the address writes it. */
export function weeksFrom(monday: string, weeks: number) {
  const at = new Date(`${monday}T12:00:00Z`)
  at.setUTCDate(at.getUTCDate() + 7 * weeks)
  return at.toISOString().slice(0, 10)
}

function Weeks({ from }: { from: string }) {
  const next = weeksFrom(from, 1)
  // The week after this one is over when the one after that has begun.
  const isOver = weeksFrom(from, 2) <= new Date().toISOString().slice(0, 10)
  return (
    <Group gap={8}>
      <Button
        variant="default"
        leftSection={<IconChevronLeft size={16} aria-hidden />}
        renderRoot={(props) => <Link to="/digest" search={{ week: weeksFrom(from, -1) }} {...props} />}
      >
        The week before
      </Button>
      {isOver && (
        <Button
          variant="default"
          rightSection={<IconChevronRight size={16} aria-hidden />}
          renderRoot={(props) => <Link to="/digest" search={{ week: next }} {...props} />}
        >
          The week after
        </Button>
      )}
    </Group>
  )
}

function ByMail({ digest, week }: { digest: Digest; week: string | undefined }) {
  const queries = useQueryClient()
  const subscription = useMutation({
    mutationFn: (wantsMail: boolean) =>
      read(api.PATCH('/api/v1/reports/digest/mail', { body: { wantsMail } })),
    onSuccess: (_, wantsMail) =>
      queries.setQueryData<Digest>(['digest', week], (old) => old && { ...old, wantsMail }),
  })
  const send = useMutation({
    mutationFn: () => read(api.POST('/api/v1/reports/digest/mail')),
    onSuccess: () => notifications.show({ message: 'Last week’s digest is on its way.' }),
  })
  if (!digest.canMail)
    return (
      <Text size="sm" c="dimmed" mt="lg">
        E-mail isn’t available: no mail server is set up.
      </Text>
    )
  return (
    <Group mt="lg" gap="lg">
      <Switch
        label="Send it to me by e-mail on Monday mornings"
        checked={subscription.isPending ? subscription.variables : digest.wantsMail}
        onChange={(event) => subscription.mutate(event.currentTarget.checked)}
      />
      <Button variant="subtle" size="compact-md" loading={send.isPending} onClick={() => send.mutate()}>
        Send me last week’s now
      </Button>
      {(subscription.error ?? send.error) && <Failed error={(subscription.error ?? send.error)!} />}
    </Group>
  )
}
