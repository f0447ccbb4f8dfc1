import { Text } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { api, read, type Schema } from '../../api/client'
import { timeOf } from '../../parts/format/numbers'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { howOften, took } from './runs'

type Work = Schema['BackgroundWorkWork']

const refreshEvery = 10_000

/** What Cursus does by itself, when it did so last, and what came of it. */
export function BackgroundSection() {
  const work = useQuery({
    queryKey: ['background-work'],
    queryFn: () => read(api.GET('/api/v1/background-work')),
    refetchInterval: refreshEvery,
  })
  if (work.isError) return <Failed error={work.error} onRetry={() => void work.refetch()} />
  if (!work.data) return <Loading rows={6} />
  if (!work.data.isOn)
    return (
      <Text c="dimmed">
        This server takes no part in background work, so nothing is known about it here. Another server of
        this installation may run it.
      </Text>
    )
  return (
    <Sheet
      about="Cursus does this by itself. With several servers, one at a time does each of these."
      columns={['What', 'Last run', 'Next run']}
    >
      {work.data.items.map((item) => (
        <tr key={item.key}>
          <td>
            {item.name}
            <Text size="sm" c="dimmed" maw={320}>
              {item.what}
            </Text>
          </td>
          <td>
            {item.lastRanAt ? timeOf(item.lastRanAt) : 'not yet'}
            <Result work={item} />
          </td>
          <td>
            {item.nextAt ? timeOf(item.nextAt) : 'not planned'}
            <Text size="sm" c="dimmed">
              {howOften(item.everySeconds)}
            </Text>
          </td>
        </tr>
      ))}
    </Sheet>
  )
}

function Result({ work }: { work: Work }) {
  if (work.lastRanAt === null) return null
  if (work.failure === null)
    return (
      <Text size="sm" c="dimmed">
        done{work.tookMilliseconds !== null && ` in ${took(work.tookMilliseconds)}`}
      </Text>
    )
  return (
    <Text size="sm" maw={320}>
      <Text span size="sm" c="red" fw={600}>
        Failed{work.failedTimes > 1 && ` ${work.failedTimes} times in a row`}
      </Text>
      . {work.failure}{' '}
      {work.lastSucceededAt
        ? `Last successful run: ${timeOf(work.lastSucceededAt)}.`
        : 'It has never run successfully.'}
    </Text>
  )
}
