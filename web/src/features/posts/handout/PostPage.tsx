import { Button, Group, Menu, Text } from '@mantine/core'
import { IconChevronDown, IconPlus } from '@tabler/icons-react'
import { queryOptions, useQuery } from '@tanstack/react-query'
import { Link, useParams } from '@tanstack/react-router'
import { api, read } from '../../../api/client'
import { useChannels, type Channel } from '../../../api/vocabulary'
import { copy } from '../../../parts/files/copy'
import { counted, day } from '../../../parts/format/numbers'
import { Page } from '../../../parts/Page'
import { Failed, Loading } from '../../../parts/States'
import { BulkCodes } from '../../codes/BulkCodes'
import { PostSplits } from '../../links/routes/PostSplits'
import { PostFigures } from '../../reports/posts/PostFigures'
import { PostPixels } from '../../retargeting/PostPixels'
import { HandOutRow } from './HandOutRow'
import classes from './HandOut.module.css'
import { asCsv } from './linkTexts'
import { placementName, type Post } from './placement'

const seconds = 1000

const postQuery = (id: string) =>
  queryOptions({
    queryKey: ['post', id],
    queryFn: () => read(api.GET('/api/v1/posts/{id}', { params: { path: { id } } })),
    // Clicks that arrive have it read anew at once; this is for those that another server has answered.
    refetchInterval: 30 * seconds,
  })

/** The hand-out: every link of a post, ready to be copied into its channel. */
export function PostPage() {
  const { postId } = useParams({ from: '/members/posts/$postId' })
  const post = useQuery(postQuery(postId))
  const channels = useChannels()
  if (post.isError && !post.data)
    return (
      <Page title="Hand-out">
        <Failed error={post.error} onRetry={() => void post.refetch()} />
      </Page>
    )
  if (!post.data)
    return (
      <Page title="Hand-out">
        <Loading />
      </Page>
    )
  return (
    <Page title={post.data.title} beside={<CopyAll post={post.data} channels={channels} />}>
      <Text c="dimmed" mt={-10} mb="md">
        <Link
          to="/campaigns/$campaignKey"
          params={{ campaignKey: post.data.campaign }}
          style={{ color: 'inherit' }}
        >
          {post.data.placements[0]?.link.post?.campaign ?? post.data.campaign}
        </Link>{' '}
        · {day(post.data.publishedOn)} · {counted(post.data.placements.length, 'placement')} ·{' '}
        <span role="status">{counted(post.data.clicks, 'click')}</span>
      </Text>
      {post.isError && <Failed error={post.error} />}
      <ul className={classes.list}>
        {post.data.placements.map((placement) => (
          <HandOutRow key={placement.id} placement={placement} channel={channels.get(placement.channel)} />
        ))}
      </ul>
      <Text size="sm" c="dimmed" mt="md">
        “Open without counting” follows a link without adding to your figures.
      </Text>
      <PostPixels post={post.data} />
      <PostSplits post={post.data.id} />
      <PostFigures post={post.data} />
    </Page>
  )
}

function CopyAll({ post, channels }: { post: Post; channels: ReadonlyMap<string, Channel> }) {
  const rows = post.placements.map(
    (p) => [placementName(p, channels.get(p.channel)), p.link.shortUrl] as const,
  )
  const lines = rows.map(([name, url]) => `${name}: ${url}`).join('\n')
  const csv = asCsv([
    ['Channel', 'Variant', 'Short link', 'Destination'],
    ...post.placements.map((p) => [
      channels.get(p.channel)?.name ?? p.channel,
      p.variant ?? '',
      p.link.shortUrl,
      p.link.finalUrl,
    ]),
  ])
  const table = rows.map((row) => row.join('\t')).join('\n')
  return (
    <Group gap={8}>
      <BulkCodes
        of={post.title}
        count={post.placements.length}
        findLinks={() => Promise.resolve(post.placements.map((p) => p.link.id))}
      />
      <Button component={Link} to="/send" variant="default" leftSection={<IconPlus size={16} aria-hidden />}>
        Another post
      </Button>
      <Menu position="bottom-end">
        <Menu.Target>
          <Button rightSection={<IconChevronDown size={16} aria-hidden />}>Copy all</Button>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Item onClick={() => void copy('All links', lines)}>As lines</Menu.Item>
          <Menu.Item onClick={() => void copy('Table', table, asHtmlTable(rows))}>As a table</Menu.Item>
          <Menu.Item onClick={() => void copy('The CSV', csv)}>As CSV</Menu.Item>
          <Menu.Item onClick={() => void copy('All addresses', rows.map(([, url]) => url).join('\n'))}>
            Addresses only
          </Menu.Item>
        </Menu.Dropdown>
      </Menu>
    </Group>
  )
}

function asHtmlTable(rows: ReadonlyArray<readonly [string, string]>) {
  const table = document.createElement('table')
  for (const cells of rows) {
    const row = table.insertRow()
    for (const text of cells) row.insertCell().textContent = text
  }
  return table.outerHTML
}
