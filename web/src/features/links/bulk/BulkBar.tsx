import { Button, CloseButton, Group, Text } from '@mantine/core'
import { useHotkeys } from '@mantine/hooks'
import { IconArchive, IconArchiveOff, IconArrowBack } from '@tabler/icons-react'
import { notifications } from '@mantine/notifications'
import { wordsOf } from '../../../api/client'
import { count, counted } from '../../../parts/format/numbers'
import { mayEdit, useSession } from '../../access/session'
import { BulkCodes } from '../../codes/BulkCodes'
import type { BulkEdit } from '../links'
import type { LinksSearch } from '../filter/linksSearch'
import classes from './BulkBar.module.css'
import {
  CampaignAction,
  DeleteAction,
  FolderAction,
  OptionsAction,
  PixelsAction,
  TagsAction,
  TimeAction,
} from './BulkActions'
import { RouteAction } from './RouteAction'
import { ReplaceAction } from './ReplaceAction'
import { ExportLinks } from '../ExportLinks'
import { useBulkChange } from './useBulkChange'
import { selectionOf, type SelectedLinks } from '../list/useSelection'

interface Props {
  selection: SelectedLinks
  search: LinksSearch
  total: number
}

const mostCodes = 500

/** What can be done with the picked links; stands at the foot of the window as long as any are picked. */
export function BulkBar({ selection, search, total }: Props) {
  const session = useSession()
  const change = useBulkChange()
  useHotkeys([['Escape', selection.clear]])
  if (selection.count === 0) return null
  const links = selectionOf(selection.picked, search, total)
  const run = (edit: BulkEdit, isGoodOnly = false) =>
    change
      .mutateAsync({ links, change: edit, isGoodOnly })
      .then(selection.clear)
      .catch((error: Error) =>
        notifications.show({ color: 'red', message: wordsOf(error), autoClose: 10_000 }),
      )
  const action = { links, count: selection.count, isBusy: change.isPending, onChange: run }
  const isDeleted = search.state === 'deleted'
  return (
    <section className={classes.bar} aria-label="Selected links">
      <Group gap={8} wrap="nowrap">
        <CloseButton aria-label="Clear selection" onClick={selection.clear} />
        <Text fw={600} role="status">
          {counted(selection.count, 'link')} selected <kbd className={classes.key}>a</kbd>
        </Text>
        {selection.count < total && !selection.picked.isAll && (
          <Button size="compact-sm" variant="subtle" onClick={selection.pickAll}>
            Select all {count(total)} found
          </Button>
        )}
      </Group>
      <Group gap={6} ml="auto" data-many-actions>
        {mayEdit(session) && !isDeleted && (
          <>
            <TagsAction {...action} />
            <FolderAction {...action} />
            <CampaignAction {...action} />
            <PixelsAction {...action} />
            <TimeAction {...action} />
            <OptionsAction {...action} />
            <RouteAction {...action} />
            <ReplaceAction {...action} />
            {search.state === 'archived' ? (
              <Button
                size="sm"
                variant="default"
                disabled={change.isPending}
                leftSection={<IconArchiveOff size={16} aria-hidden />}
                onClick={() => void run({ archive: false })}
              >
                Unarchive
              </Button>
            ) : (
              <Button
                size="sm"
                variant="default"
                disabled={change.isPending}
                leftSection={<IconArchive size={16} aria-hidden />}
                onClick={() => void run({ archive: true })}
              >
                Archive
              </Button>
            )}
          </>
        )}
        <ExportLinks links={links} />
        {!isDeleted && links.ids && links.ids.length <= mostCodes && (
          <BulkCodes
            of="selected links"
            count={links.ids.length}
            findLinks={() => Promise.resolve([...links.ids!])}
          />
        )}
        {mayEdit(session) &&
          (isDeleted ? (
            <Button
              size="sm"
              variant="default"
              leftSection={<IconArrowBack size={16} aria-hidden />}
              onClick={() => void run({ delete: false }, true)}
            >
              Restore
            </Button>
          ) : (
            <DeleteAction {...action} />
          ))}
      </Group>
    </section>
  )
}
