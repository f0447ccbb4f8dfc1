import { Combobox, InputBase, Loader, Text, useCombobox } from '@mantine/core'
import { useDebouncedValue } from '@mantine/hooks'
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { api, read } from '../../../api/client'
import type { Campaign } from '../../../api/vocabulary'

interface Props {
  campaigns: Campaign[]
  value: string | null
  onChange: (key: string) => void
  error?: string
}

const addOption = '\u0000add'
const nextOption = '\u0000next '

/** Chooses a campaign by typing a part of its name; a name that is new can be added in place. */
export function CampaignField({ campaigns, value, onChange, error }: Props) {
  const chosen = campaigns.find((c) => c.key === value)
  const [typed, setTyped] = useState<string | null>(null)
  const queries = useQueryClient()
  const combobox = useCombobox({ onDropdownClose: () => combobox.resetSelectedOption() })
  const add = useMutation({
    mutationFn: (body: { name: string; key?: string; evenSo?: boolean }) =>
      read(api.POST('/api/v1/campaigns', { body })),
    onSuccess: (campaign) => {
      queries.setQueryData<Campaign[]>(['campaigns'], (all) => [campaign, ...(all ?? [])])
      take(campaign.key)
    },
  })

  const [settled] = useDebouncedValue((typed ?? '').trim(), 150)
  const proposals = useQuery({
    queryKey: ['campaigns', 'proposals', settled],
    queryFn: () =>
      read(api.GET('/api/v1/campaigns/proposals', { params: { query: { name: settled || undefined } } })),
    enabled: combobox.dropdownOpened,
    placeholderData: keepPreviousData,
  })

  const text = typed ?? chosen?.name ?? ''
  const wanted = (typed ?? '').trim().toLowerCase()
  const matching = campaigns.filter(
    (c) => c.name.toLowerCase().includes(wanted) || c.key.toLowerCase().includes(wanted),
  )
  const isNew = wanted !== '' && !campaigns.some((c) => c.name.toLowerCase() === wanted || c.key === wanted)

  // The first match is chosen by Enter; it has to be drawn before it can be picked out.
  const { selectFirstOption } = combobox
  useEffect(() => {
    if (typed) selectFirstOption()
  }, [typed, selectFirstOption])

  const made = settled === (typed ?? '').trim() ? proposals.data?.typed : undefined
  const similar = isNew ? proposals.data?.similar : undefined
  const next = (proposals.data?.next ?? []).filter((p) => p.name.toLowerCase().includes(wanted)).slice(0, 4)

  // Whoever still wants a name that looks like another has seen the other one offered above it.
  const addTyped = () => add.mutate({ name: typed!.trim(), evenSo: similar != null })

  function choose(option: string) {
    if (option === addOption) return addTyped()
    const proposed = next.find((p) => nextOption + p.key === option)
    if (proposed) add.mutate(proposed)
    else take(option)
  }

  function take(key: string) {
    setTyped(null)
    onChange(key)
    combobox.closeDropdown()
  }

  return (
    <Combobox store={combobox} onOptionSubmit={choose}>
      <Combobox.Target>
        <InputBase
          label="Campaign"
          placeholder="Choose, or type a new one"
          value={text}
          error={add.error?.message ?? error}
          rightSectionWidth={typed === null && chosen ? 150 : undefined}
          rightSection={
            add.isPending ? (
              <Loader size={14} />
            ) : typed === null && chosen ? (
              <Text size="sm" c="dimmed" truncate w={135} ta="right">
                {chosen.key}
              </Text>
            ) : (
              <Combobox.Chevron />
            )
          }
          rightSectionPointerEvents="none"
          onChange={(event) => {
            setTyped(event.currentTarget.value)
            combobox.openDropdown()
          }}
          onClick={() => combobox.openDropdown()}
          onFocus={(event) => {
            event.currentTarget.select()
            combobox.openDropdown()
          }}
          onKeyDown={(event) => {
            // Somebody quicker than the list: Enter takes what the list would have offered first.
            if (event.key !== 'Enter' || !wanted || combobox.getSelectedOptionIndex() >= 0) return
            event.preventDefault()
            if (matching[0]) take(matching[0].key)
            else addTyped()
          }}
          onBlur={() => {
            combobox.closeDropdown()
            setTyped(null)
          }}
        />
      </Combobox.Target>
      <Combobox.Dropdown>
        <Combobox.Options mah={300} style={{ overflowY: 'auto' }}>
          {matching.map((c) => (
            <Combobox.Option key={c.key} value={c.key} active={c.key === value}>
              {c.name}{' '}
              <Text span size="sm" c="dimmed">
                {c.key}
              </Text>
            </Combobox.Option>
          ))}
          {similar && !matching.some((c) => c.key === similar.key) && (
            <Combobox.Option value={similar.key}>
              Did you mean “{similar.name}”?{' '}
              <Text span size="sm" c="dimmed">
                {similar.key}
              </Text>
            </Combobox.Option>
          )}
          {isNew && (
            <Combobox.Option value={addOption}>
              Add “{made?.name ?? typed?.trim()}”{' '}
              <Text span size="sm" c="dimmed">
                {made?.key}
              </Text>
            </Combobox.Option>
          )}
          {next.length > 0 && (
            <Combobox.Group label="Next in series">
              {next.map((p) => (
                <Combobox.Option key={p.key} value={nextOption + p.key}>
                  Add “{p.name}”{' '}
                  <Text span size="sm" c="dimmed">
                    {p.key}
                  </Text>
                </Combobox.Option>
              ))}
            </Combobox.Group>
          )}
          {matching.length === 0 && !isNew && (
            <Combobox.Empty>Type a name for your first campaign.</Combobox.Empty>
          )}
        </Combobox.Options>
      </Combobox.Dropdown>
    </Combobox>
  )
}
