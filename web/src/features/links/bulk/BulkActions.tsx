import { Button, Group, Popover, Select, Stack, Text } from '@mantine/core'
import {
  IconAdjustmentsHorizontal,
  IconClock,
  IconCrosshair,
  IconFlag,
  IconFolder,
  IconTag,
  IconTrash,
} from '@tabler/icons-react'
import { useQuery } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import { api, read, wordsOf } from '../../../api/client'
import { vocabulary } from '../../../api/vocabulary'
import { inPanel } from '../../../parts/inPanel'
import { LinkOptionFields, type LinkOptionsPatch } from '../../../parts/LinkOptionFields'
import { redirects } from '../../../parts/format/redirects'
import { counted } from '../../../parts/format/numbers'
import { SpanFields } from '../../../parts/SpanFields'
import { TagsField } from '../../../parts/TagPill'
import { PixelsField } from '../../retargeting/PixelsField'
import type { Selection, BulkEdit } from '../links'

export interface ActionProps {
  links: Selection
  count: number
  isBusy: boolean
  onChange: (edit: BulkEdit, isGoodOnly?: boolean) => Promise<unknown>
}

/** Lists open upwards, off the buttons below them; the panel stands at the foot of the window, so that there is room above. */
export const above = { ...inPanel, position: 'top', middlewares: { flip: false } } as const

const unchanged = 'no change'

/** A button with a small panel of its own. */
export function Panel(props: {
  label: string
  icon: ReactNode
  isBusy: boolean
  color?: string
  children: (close: () => void) => ReactNode
}) {
  const [isOpen, setIsOpen] = useState(false)
  return (
    <Popover
      opened={isOpen}
      onChange={setIsOpen}
      position="top"
      width={320}
      trapFocus
      shadow="md"
      withRoles={false}
    >
      <Popover.Target>
        <Button
          size="sm"
          variant="default"
          disabled={props.isBusy}
          leftSection={props.icon}
          aria-expanded={isOpen}
          onClick={() => setIsOpen((open) => !open)}
        >
          {props.label}
        </Button>
      </Popover.Target>
      <Popover.Dropdown role="group" aria-label={props.label}>
        <Stack gap="sm">{props.children(() => setIsOpen(false))}</Stack>
      </Popover.Dropdown>
    </Popover>
  )
}

/** Puts tags on the links, or takes them off. */
export function TagsAction({ isBusy, onChange }: ActionProps) {
  const [names, setNames] = useState<string[]>([])
  return (
    <Panel label="Tag" icon={<IconTag size={16} aria-hidden />} isBusy={isBusy}>
      {(close) => {
        const done = (edit: BulkEdit) => {
          close()
          setNames([])
          void onChange(edit)
        }
        return (
          <>
            <TagsField label="Tags" data-autofocus comboboxProps={above} value={names} onChange={setNames} />
            <Group gap={8}>
              <Button disabled={names.length === 0} onClick={() => done({ addTags: names })}>
                Add
              </Button>
              <Button
                variant="default"
                disabled={names.length === 0}
                onClick={() => done({ removeTags: names })}
              >
                Remove
              </Button>
            </Group>
          </>
        )
      }}
    </Panel>
  )
}

/** Moves the links to a folder, or out of any. */
export function FolderAction({ isBusy, onChange }: ActionProps) {
  const folders = useQuery(vocabulary.folders)
  return (
    <Panel label="Move" icon={<IconFolder size={16} aria-hidden />} isBusy={isBusy}>
      {(close) =>
        folders.data?.length === 0 ? (
          <Text size="sm">There are no folders yet. Add one in Settings, under Tags.</Text>
        ) : (
          <Select
            label="Folder"
            data-autofocus
            comboboxProps={above}
            data={[...(folders.data?.map((f) => f.name) ?? []), { value: '', label: 'No folder' }]}
            value={null}
            onChange={(folder) => {
              close()
              void onChange({ folder: folder ?? '' })
            }}
          />
        )
      }
    </Panel>
  )
}

/** Counts the links under another campaign. */
export function CampaignAction({ isBusy, onChange }: ActionProps) {
  const campaigns = useQuery(vocabulary.campaigns)
  return (
    <Panel label="Campaign" icon={<IconFlag size={16} aria-hidden />} isBusy={isBusy}>
      {(close) => (
        <>
          <Text size="sm">The new campaign applies from the next visit.</Text>
          <Select
            label="Campaign"
            data-autofocus
            searchable
            comboboxProps={above}
            data={campaigns.data?.map((c) => ({ value: c.key, label: c.name })) ?? []}
            value={null}
            onChange={(campaign) => {
              close()
              if (campaign) void onChange({ campaign })
            }}
          />
        </>
      )}
    </Panel>
  )
}

/** Attaches pixels to the links, or takes them off. */
export function PixelsAction({ isBusy, onChange }: ActionProps) {
  const [ids, setIds] = useState<string[]>([])
  return (
    <Panel label="Pixels" icon={<IconCrosshair size={16} aria-hidden />} isBusy={isBusy}>
      {(close) => {
        const done = (edit: BulkEdit) => {
          close()
          setIds([])
          void onChange(edit)
        }
        return (
          <>
            <PixelsField data-autofocus comboboxProps={above} value={ids} onChange={setIds} />
            <Group gap={8}>
              <Button disabled={ids.length === 0} onClick={() => done({ addPixels: ids })}>
                Attach
              </Button>
              <Button
                variant="default"
                disabled={ids.length === 0}
                onClick={() => done({ removePixels: ids })}
              >
                Remove
              </Button>
            </Group>
          </>
        )
      }}
    </Panel>
  )
}

/** Says when the links open and end, or opens them for good. */
export function TimeAction({ isBusy, onChange }: ActionProps) {
  const [opensAt, setOpensAt] = useState('')
  const [endsAt, setEndsAt] = useState('')
  return (
    <Panel label="Time" icon={<IconClock size={16} aria-hidden />} isBusy={isBusy}>
      {(close) => {
        const done = (edit: BulkEdit) => {
          close()
          void onChange(edit)
        }
        return (
          <>
            <SpanFields opensAt={opensAt} endsAt={endsAt} onOpensAt={setOpensAt} onEndsAt={setEndsAt} />
            <Group gap={8}>
              <Button
                disabled={!opensAt && !endsAt}
                onClick={() => done({ ...(opensAt ? { opensAt } : {}), ...(endsAt ? { endsAt } : {}) })}
              >
                Set
              </Button>
              <Button variant="default" onClick={() => done({ opensAt: '', endsAt: '' })}>
                Always active
              </Button>
            </Group>
          </>
        )
      }}
    </Panel>
  )
}

/** Sets how the links redirect and what else can be chosen about them; what is left alone stays as each has it. */
export function OptionsAction({ isBusy, onChange }: ActionProps) {
  const [redirect, setRedirect] = useState<string | null>(null)
  const [options, setOptions] = useState<LinkOptionsPatch>({})
  const set = Object.fromEntries(
    Object.entries(options).filter(([, value]) => value !== null && value !== ''),
  )
  const isSet = Object.keys(set).length > 0
  return (
    <Panel label="Options" icon={<IconAdjustmentsHorizontal size={16} aria-hidden />} isBusy={isBusy}>
      {(close) => (
        <>
          <Stack gap="sm" mah="50vh" style={{ overflowY: 'auto' }}>
            <Select
              label="Redirect"
              data-autofocus
              clearable
              placeholder={unchanged}
              comboboxProps={inPanel}
              data={redirects}
              value={redirect}
              onChange={setRedirect}
            />
            <LinkOptionFields
              options={options}
              unsaid={unchanged}
              onChange={(change) => setOptions({ ...options, ...change })}
            />
          </Stack>
          <Group>
            <Button
              disabled={!redirect && !isSet}
              onClick={() => {
                close()
                setRedirect(null)
                setOptions({})
                void onChange({
                  ...(redirect ? { redirect: Number(redirect) } : {}),
                  ...(isSet ? { options: set } : {}),
                })
              }}
            >
              Set
            </Button>
          </Group>
        </>
      )}
    </Panel>
  )
}

/** Deletes the links, after saying what still goes over them. */
export function DeleteAction(props: ActionProps) {
  return (
    <Panel label="Delete" icon={<IconTrash size={16} aria-hidden />} isBusy={props.isBusy}>
      {(close) => <SureToDelete {...props} close={close} />}
    </Panel>
  )
}

function SureToDelete({ links, count, onChange, close }: ActionProps & { close: () => void }) {
  const preview = useQuery({
    queryKey: ['link-changes', 'preview', links, 'delete'],
    queryFn: () =>
      read(
        api.POST('/api/v1/link-changes/preview', {
          body: { links, change: { delete: true }, isGoodOnly: false },
        }),
      ),
    staleTime: 0,
  })
  return (
    <>
      <Text size="sm" role="status">
        {preview.isError
          ? wordsOf(preview.error)
          : preview.data
            ? `People clicked them ${counted(preview.data.recentClicks, 'time')} in the last 30 days. Anyone who follows one from now on sees that it has ended.`
            : 'Checking recent clicks…'}
      </Text>
      <Button
        color="red"
        data-autofocus
        disabled={!preview.data}
        onClick={() => {
          close()
          void onChange({ delete: true })
        }}
      >
        Delete {counted(count, 'link')}
      </Button>
    </>
  )
}
