import { Button, Checkbox, Group as Row, Popover, Select, Stack, Text, VisuallyHidden } from '@mantine/core'
import { useDocumentTitle, useHotkeys } from '@mantine/hooks'
import { useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { Link as RouterLink, Outlet, useNavigate, useParams, useSearch } from '@tanstack/react-router'
import { useCallback } from 'react'
import { useChannels, vocabulary } from '../../../api/vocabulary'
import { counted } from '../../../parts/format/numbers'
import { Empty, Failed, Loading } from '../../../parts/States'
import { mayEdit, useSession } from '../../access/session'
import { AttentionNote } from '../../checking/AttentionNote'
import { checkSummaryQuery } from '../../checking/checks'
import { BulkCodes } from '../../codes/BulkCodes'
import { columns, hiddenOf, sorts, toggled, type Column } from './columns'
import { FilterBar } from '../filter/FilterBar'
import { FolderStrip } from './FolderStrip'
import { changesQuery, findIds, linksQuery } from '../links'
import classes from './LinksPage.module.css'
import { isNarrowed, type LinksSearch } from '../filter/linksSearch'
import { LinksTable } from './LinksTable'
import { BulkBar } from '../bulk/BulkBar'
import { RecentChanges } from './RecentChanges'
import { useBulkChange } from '../bulk/useBulkChange'
import { selectionOf, useSelection } from './useSelection'

/** All links, grouped by the post they belong to; details open beside the list at an address of their own. */
export function LinksPage() {
  const search = useSearch({ from: '/members/links' })
  const { linkId } = useParams({ strict: false })
  const navigate = useNavigate()
  const session = useSession()
  const channels = useChannels()
  const found = useInfiniteQuery(linksQuery(search))
  useDocumentTitle('Links · Cursus')
  // Folders, what needs attention and what can be undone stand above the list, which would move if they came later.
  const above = [useQuery(vocabulary.folders), useQuery(checkSummaryQuery), useQuery(changesQuery)]
  const isWaiting = above.some((query) => query.isPending)

  const links = found.data?.pages.flatMap((page) => page.items) ?? []
  const total = found.data?.pages[0]?.total ?? 0
  const isNear = found.data?.pages[0]?.isNear ?? false
  const selection = useSelection(search, total)
  const change = useBulkChange()
  const narrow = (part: Partial<LinksSearch>) =>
    void navigate({ to: '.', search: (s: LinksSearch) => ({ ...s, ...part }), replace: true })
  const isFlat = search.view === 'flat'
  useHotkeys([['g', () => narrow({ view: isFlat ? undefined : 'flat' })]])
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = found
  const more = useCallback(() => {
    if (hasNextPage && !isFetchingNextPage) void fetchNextPage()
  }, [hasNextPage, isFetchingNextPage, fetchNextPage])

  return (
    <div className={linkId ? `${classes.page} ${classes.withSheet}` : classes.page}>
      <div className={classes.list}>
        <VisuallyHidden component="h1">Links</VisuallyHidden>
        <FilterBar search={search} channels={channels} onNarrow={narrow} />
        {isWaiting ? (
          <Loading rows={10} />
        ) : (
          <>
            <FolderStrip
              search={search}
              onMove={(folder, link) => {
                if (!mayEdit(session)) return
                const moved = link ? { ids: [link] } : selectionOf(selection.picked, search, total)
                change.mutate({ links: moved, change: { folder } })
              }}
            />
            <RecentChanges />
            <Row justify="space-between" my={10}>
              <Row gap={6}>
                <Button
                  variant="subtle"
                  size="compact-sm"
                  onClick={() => narrow({ view: isFlat ? undefined : 'flat' })}
                >
                  {isFlat ? 'Group by post' : 'Show as one list'} <kbd className={classes.key}>g</kbd>
                </Button>
                <Select
                  aria-label="Sort by"
                  size="xs"
                  w={164}
                  data={search.query ? [{ value: '', label: 'Best match first' }, ...sorts] : sorts}
                  value={search.sort ?? (search.query ? '' : 'newest')}
                  placeholder="By column"
                  onChange={(sort) => narrow({ sort: sort || undefined })}
                />
                <ColumnChoice search={search} onNarrow={narrow} />
                <AttentionNote />
              </Row>
              <Row gap={12}>
                <Text size="sm" c="dimmed" role="status">
                  {found.data &&
                    (isNear && total > 0
                      ? `No exact match. ${counted(total, 'similar link')}:`
                      : counted(total, 'link'))}
                </Text>
                {mayEdit(session) && (
                  <Button
                    variant="subtle"
                    size="compact-sm"
                    renderRoot={(props) => <RouterLink to="/send/many" {...props} />}
                  >
                    Import links
                  </Button>
                )}
                <BulkCodes
                  of={isNarrowed(search) ? 'this list' : 'the workspace'}
                  count={total}
                  size="compact-sm"
                  findLinks={() => findIds(search)}
                />
              </Row>
            </Row>
            {found.isPending && <Loading rows={9} />}
            {found.isError && <Failed error={found.error} onRetry={() => void found.refetch()} />}
            {found.data &&
              links.length === 0 &&
              (isNarrowed(search) ? <NoneFound /> : <NoneYet isReader={!mayEdit(session)} />)}
            {links.length > 0 && (
              <LinksTable
                links={links}
                total={total}
                search={search}
                channels={channels}
                selection={selection}
                isBeside={linkId !== undefined}
                onSort={(sort) => narrow({ sort })}
                onEnd={more}
              />
            )}
          </>
        )}
        <BulkBar selection={selection} search={search} total={total} />
      </div>
      <Outlet />
    </div>
  )
}

interface ChoiceProps {
  search: LinksSearch
  onNarrow: (part: Partial<LinksSearch>) => void
}

/** Which columns the table shows. */
function ColumnChoice({ search, onNarrow }: ChoiceProps) {
  const hidden = hiddenOf(search.without)
  return (
    <Popover position="bottom-start" trapFocus withRoles={false}>
      <Popover.Target>
        <Button variant="subtle" size="compact-sm" className={classes.columns}>
          Columns
        </Button>
      </Popover.Target>
      <Popover.Dropdown role="group" aria-label="Columns">
        <Stack gap={8}>
          {(Object.keys(columns) as Column[]).map((column) => (
            <Checkbox
              key={column}
              label={columns[column]}
              checked={!hidden.includes(column)}
              onChange={() => onNarrow({ without: toggled(search.without, column) })}
            />
          ))}
        </Stack>
      </Popover.Dropdown>
    </Popover>
  )
}

const NoneYet = ({ isReader }: { isReader: boolean }) => (
  <Empty
    title="No links yet"
    action={
      !isReader && (
        <Row gap={12} justify="center">
          <Button component={RouterLink} to="/send">
            Create your first post
          </Button>
          <Button variant="default" renderRoot={(props) => <RouterLink to="/send/many" {...props} />}>
            Import links
          </Button>
        </Row>
      )
    }
  >
    {isReader
      ? 'Links made by editors of this workspace appear here.'
      : 'Paste a page’s address anywhere to start a post, or import links you made elsewhere.'}
  </Empty>
)

const NoneFound = () => (
  <Empty
    title="No links match"
    action={
      <Button variant="default" renderRoot={(props) => <RouterLink to="/links" search={{}} {...props} />}>
        Show all links
      </Button>
    }
  >
    Remove a filter or change the search, or show all links.
  </Empty>
)
