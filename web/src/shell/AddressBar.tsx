import { Combobox, Kbd, Loader, TextInput, useCombobox } from '@mantine/core'
import { useDebouncedValue, useHotkeys, useMediaQuery } from '@mantine/hooks'
import { IconSearch } from '@tabler/icons-react'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { useEffect, useRef, useState } from 'react'
import { api, read, type Schema } from '../api/client'
import { enterWorkspace, mayEdit, useSession } from '../features/access/session'
import { workspacesLike } from '../features/workspace/workspacesLike'
import { useQuickLink } from '../features/links/useQuickLink'
import { sectionsLike } from '../features/settings/sections'
import { tellFailure } from '../parts/tellFailure'
import { looksLikeAddress } from './pasted'
import classes from './Shell.module.css'

type Hit = Schema['FindHit']

const commands = [
  { label: 'New post', words: 'begin new post send', go: '/send' },
  {
    label: 'Bulk: create links from a list',
    words: 'many at once list csv xlsx import batch',
    go: '/send/many',
  },
  { label: 'Show all links', words: 'links all list', go: '/links' },
  { label: 'Compare channels', words: 'compare channels report clicks', go: '/compare' },
  { label: 'Weekly digest', words: 'digest last week summary', go: '/digest' },
  { label: 'Workspaces', words: 'workspaces clients switch new workspace', go: '/workspaces' },
  { label: 'Your account', words: 'account password profile sign-ins e-mail', go: '/account' },
] as const

const groups = [
  { kind: 'campaign', label: 'Campaigns' },
  { kind: 'post', label: 'Posts' },
  { kind: 'link', label: 'Links' },
] as const

/** Always there: an address begins a post, words find links, posts, campaigns and commands. `/` and Ctrl+K go to it. */
export function AddressBar() {
  const [text, setText] = useState('')
  const [query] = useDebouncedValue(text.trim(), 150)
  const field = useRef<HTMLInputElement>(null)
  const navigate = useNavigate()
  const session = useSession()
  const isNarrow = useMediaQuery('(max-width: 48em)')
  const makeQuickLink = useQuickLink()
  const combobox = useCombobox({ onDropdownClose: () => combobox.resetSelectedOption() })
  const isAddress = looksLikeAddress(text)
  const found = useQuery({
    queryKey: ['find', query],
    queryFn: () => read(api.GET('/api/v1/find', { params: { query: { query } } })),
    enabled: query.length > 0 && !isAddress,
    placeholderData: keepPreviousData,
  })
  useHotkeys([
    ['/', () => field.current?.focus()],
    ['mod+K', () => field.current?.focus()],
  ])

  const matching = [
    ...commands.filter((c) => text.trim() !== '' && c.words.includes(text.trim().toLowerCase())),
    ...sectionsLike(text).map(({ id, label }) => ({ label: `Settings: ${label}`, go: `/settings/${id}` })),
  ]
  const elsewhere = workspacesLike(text, session)
  const hits = text.trim() === '' || isAddress ? [] : (found.data ?? [])

  // The first option is chosen by Enter; it has to be drawn before it can be picked out.
  const { selectFirstOption } = combobox
  useEffect(() => {
    if (text) selectFirstOption()
  }, [text, found.data, selectFirstOption])

  function choose(value: string) {
    combobox.closeDropdown()
    setText('')
    field.current?.blur()
    const [kind = '', key = ''] = [value.slice(0, value.indexOf(':')), value.slice(value.indexOf(':') + 1)]
    if (kind === 'quick') makeQuickLink(key)
    else if (kind === 'address') void navigate({ to: '/send', search: { to: key } })
    else if (kind === 'go') void navigate({ to: key })
    else if (kind === 'workspace') enterWorkspace(key).catch(tellFailure)
    else if (kind === 'campaign')
      void navigate({ to: '/campaigns/$campaignKey', params: { campaignKey: key } })
    else if (kind === 'post') void navigate({ to: '/posts/$postId', params: { postId: key } })
    else void navigate({ to: '/links/$linkId', params: { linkId: key }, search: {} })
  }

  return (
    <div className={classes.bar} role="search">
      <Combobox store={combobox} onOptionSubmit={choose}>
        <Combobox.Target>
          <TextInput
            ref={field}
            aria-label="Paste an address or search"
            placeholder={isNarrow ? 'Search or paste' : 'Paste an address or search'}
            radius="xl"
            leftSection={<IconSearch size={16} aria-hidden />}
            rightSection={found.isFetching ? <Loader size={14} /> : <Kbd size="xs">/</Kbd>}
            value={text}
            onChange={(event) => {
              setText(event.currentTarget.value)
              combobox.openDropdown()
            }}
            onFocus={() => text && combobox.openDropdown()}
            onBlur={() => combobox.closeDropdown()}
            onKeyDown={(event) => {
              if (event.key === 'Escape') field.current?.blur()
              if (event.key === 'Enter' && isAddress && combobox.getSelectedOptionIndex() < 0)
                choose(`address:${text.trim()}`)
            }}
          />
        </Combobox.Target>
        <Combobox.Dropdown hidden={text.trim() === ''}>
          <Combobox.Options mah={420} style={{ overflowY: 'auto' }}>
            {isAddress && (
              <>
                <Combobox.Option value={`address:${text.trim()}`}>New post with this address</Combobox.Option>
                {mayEdit(session) && (
                  <Combobox.Option value={`quick:${text.trim()}`}>
                    Create and copy a quick link
                  </Combobox.Option>
                )}
              </>
            )}
            {matching.map((c) => (
              <Combobox.Option key={c.go} value={`go:${c.go}`}>
                {c.label}
              </Combobox.Option>
            ))}
            {elsewhere.map(({ key, name }) => (
              <Combobox.Option key={key} value={`workspace:${key}`}>
                Go to {name}
              </Combobox.Option>
            ))}
            <Hits hits={hits} />
            {!isAddress && matching.length + elsewhere.length + hits.length === 0 && found.isFetched && (
              <Combobox.Empty>No matches.</Combobox.Empty>
            )}
            {found.isError && <Combobox.Empty>{found.error.message}</Combobox.Empty>}
          </Combobox.Options>
        </Combobox.Dropdown>
      </Combobox>
    </div>
  )
}

function Hits({ hits }: { hits: Hit[] }) {
  return groups.map(({ kind, label }) => {
    const these = hits.filter((hit) => hit.kind === kind)
    return these.length === 0 ? null : (
      <Combobox.Group key={kind} label={label}>
        {these.map((hit) => (
          <Combobox.Option key={hit.key} value={`${kind}:${hit.key}`}>
            {hit.label}
            <span style={{ color: 'var(--mantine-color-dimmed)', fontSize: 13 }}> · {hit.detail}</span>
          </Combobox.Option>
        ))}
      </Combobox.Group>
    )
  })
}
