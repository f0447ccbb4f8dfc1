import {
  Button,
  CloseButton,
  Group as Row,
  Pill,
  Select,
  Text,
  TextInput,
  VisuallyHidden,
} from '@mantine/core'
import { useDebouncedCallback, useDocumentTitle, useHotkeys, useIntersection } from '@mantine/hooks'
import { IconSearch } from '@tabler/icons-react'
import { useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { Link as RouterLink, Outlet, useNavigate, useParams, useSearch } from '@tanstack/react-router'
import { useEffect, useState } from 'react'
import { useChannels, vocabulary, type Channel } from '../../api/vocabulary'
import { counted, day } from '../../parts/numbers'
import { Empty, Failed, Loading } from '../../parts/States'
import type { LinksSearch } from '../../router'
import { groupByPost, type Group } from './groups'
import { ManyCodes } from '../codes/ManyCodes'
import { allLinks, linksQuery, type Link } from './links'
import { LinkRow } from './LinkRow'
import classes from './LinksPage.module.css'

/** All links, grouped by the post they belong to; details open beside the list at an address of their own. */
export function LinksPage() {
  const search = useSearch({ from: '/members/links' })
  const { linkId } = useParams({ strict: false })
  const navigate = useNavigate()
  const channels = useChannels()
  const found = useInfiniteQuery(linksQuery(search))
  useDocumentTitle('Links · Cursus')

  const links = found.data?.pages.flatMap((page) => page.items) ?? []
  const total = found.data?.pages[0]?.total ?? 0
  const narrow = (part: Partial<LinksSearch>) =>
    void navigate({ to: '.', search: (s: LinksSearch) => ({ ...s, ...part }), replace: true })
  useHotkeys([['g', () => narrow({ view: search.view === 'flat' ? undefined : 'flat' })]])
  const isNarrowed = Boolean(
    search.query || search.campaign || search.channel || search.tag || search.folder || search.batch,
  )

  return (
    <div className={linkId ? `${classes.page} ${classes.withSheet}` : classes.page}>
      <div className={classes.list}>
        <VisuallyHidden component="h1">Links</VisuallyHidden>
        <Filters search={search} channels={channels} onNarrow={narrow} />
        <Row justify="space-between" my={10}>
          <Button
            variant="subtle"
            size="compact-sm"
            onClick={() => narrow({ view: search.view === 'flat' ? undefined : 'flat' })}
          >
            {search.view === 'flat' ? 'Group by post' : 'Show as one list'}{' '}
            <kbd className={classes.key}>g</kbd>
          </Button>
          <Row gap={12}>
            <Text size="sm" c="dimmed" role="status">
              {found.data && counted(total, 'link')}
            </Text>
            <ManyCodes
              of={isNarrowed ? 'this list' : 'the workspace'}
              count={total}
              size="compact-sm"
              findLinks={() => allLinks(search)}
            />
          </Row>
        </Row>
        {found.isPending && <Loading rows={9} />}
        {found.isError && <Failed error={found.error} onRetry={() => void found.refetch()} />}
        {found.data && links.length === 0 && (isNarrowed ? <NoneFound /> : <NoneYet />)}
        <Groups links={links} isFlat={search.view === 'flat'} channels={channels} />
        {found.hasNextPage && (
          <More onReached={() => !found.isFetchingNextPage && void found.fetchNextPage()} />
        )}
      </div>
      <Outlet />
    </div>
  )
}

function Groups(props: { links: Link[]; isFlat: boolean; channels: ReadonlyMap<string, Channel> }) {
  if (props.isFlat)
    return (
      <ul className={classes.rows}>
        {props.links.map((link) => (
          <LinkRow key={link.id} link={link} channel={props.channels.get(link.channel ?? '')} showTitle />
        ))}
      </ul>
    )
  return groupByPost(props.links).map((group) => (
    <section key={group.links[0]!.id} aria-label={group.post?.title ?? 'Single links'}>
      <GroupHeading group={group} />
      <ul className={classes.rows}>
        {group.links.map((link) => (
          <LinkRow
            key={link.id}
            link={link}
            channel={props.channels.get(link.channel ?? '')}
            showTitle={!group.post}
          />
        ))}
      </ul>
    </section>
  ))
}

function GroupHeading({ group: { post, links } }: { group: Group }) {
  const sum = links.reduce((clicks, link) => clicks + link.clicks, 0)
  return (
    <h2 className={classes.post}>
      {post ? (
        <RouterLink to="/posts/$postId" params={{ postId: post.id }}>
          {post.title}
        </RouterLink>
      ) : (
        'Single links'
      )}
      <small>
        {post && `${post.campaign} · ${day(post.publishedOn)} · `}
        {counted(links.length, post ? 'placement' : 'link')} · {counted(sum, 'click')}
      </small>
    </h2>
  )
}

interface FiltersProps {
  search: LinksSearch
  channels: ReadonlyMap<string, Channel>
  onNarrow: (part: Partial<LinksSearch>) => void
}

function Filters({ search, channels, onNarrow }: FiltersProps) {
  const campaigns = useQuery(vocabulary.campaigns)
  const tags = useQuery(vocabulary.tags)
  const folders = useQuery(vocabulary.folders)
  return (
    <Row gap={8}>
      <WordsField query={search.query} onNarrow={onNarrow} />
      <Select
        aria-label="Campaign"
        placeholder="Any campaign"
        searchable
        clearable
        w={190}
        data={campaigns.data?.map((c) => ({ value: c.key, label: c.name })) ?? []}
        value={search.campaign ?? null}
        onChange={(campaign) => onNarrow({ campaign: campaign ?? undefined })}
      />
      <Select
        aria-label="Channel"
        placeholder="Any channel"
        clearable
        w={160}
        data={[...channels.values()].map((c) => ({ value: c.key, label: c.name }))}
        value={search.channel ?? null}
        onChange={(channel) => onNarrow({ channel: channel ?? undefined })}
      />
      <Select
        aria-label="Tag"
        placeholder="Any tag"
        clearable
        w={140}
        data={tags.data?.map((t) => t.name) ?? []}
        value={search.tag ?? null}
        onChange={(tag) => onNarrow({ tag: tag ?? undefined })}
      />
      {((folders.data?.length ?? 0) > 0 || search.folder) && (
        <Select
          aria-label="Folder"
          placeholder="Any folder"
          clearable
          w={150}
          data={folders.data?.map((f) => f.name) ?? []}
          value={search.folder ?? null}
          onChange={(folder) => onNarrow({ folder: folder ?? undefined })}
        />
      )}
      {search.batch && (
        <Pill
          size="lg"
          withRemoveButton
          onRemove={() => onNarrow({ batch: undefined })}
          removeButtonProps={{
            'aria-label': 'Show links of other lists too',
            tabIndex: 0,
            'aria-hidden': false,
          }}
        >
          Made from one list
        </Pill>
      )}
    </Row>
  )
}

/** Words are asked for while typing; the address follows, and a changed address resets the field. */
function WordsField({ query, onNarrow }: Pick<FiltersProps, 'onNarrow'> & { query: string | undefined }) {
  const [text, setText] = useState(query ?? '')
  const ask = useDebouncedCallback((words: string) => onNarrow({ query: words.trim() || undefined }), 250)
  return (
    <TextInput
      aria-label="Find links by words"
      placeholder="Words of title, slug or destination"
      className={classes.words}
      leftSection={<IconSearch size={16} aria-hidden />}
      value={text}
      onChange={(event) => {
        setText(event.currentTarget.value)
        ask(event.currentTarget.value)
      }}
      rightSection={
        text && (
          <CloseButton
            aria-label="Clear the words"
            onClick={() => {
              setText('')
              onNarrow({ query: undefined })
            }}
          />
        )
      }
    />
  )
}

const NoneYet = () => (
  <Empty
    title="No links yet"
    action={
      <Button component={RouterLink} to="/send">
        Send the first post
      </Button>
    }
  >
    Paste the address of a page anywhere, and a post begins with it.
  </Empty>
)

const NoneFound = () => (
  <Empty
    title="No link fits"
    action={
      <Button variant="default" renderRoot={(props) => <RouterLink to="/links" search={{}} {...props} />}>
        Show all links
      </Button>
    }
  >
    No link has these words together with these filters. Take one away, or show all.
  </Empty>
)

/** Fetches the next page when it comes into sight. */
function More({ onReached }: { onReached: () => void }) {
  const { ref, entry } = useIntersection({ rootMargin: '600px' })
  const isInSight = entry?.isIntersecting ?? false
  useEffect(() => {
    if (isInSight) onReached()
  })
  return <div ref={ref} className={classes.more}></div>
}
