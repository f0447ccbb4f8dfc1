import { Combobox, InputBase, Loader, Text, useCombobox } from '@mantine/core'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { api, read } from '../../api/client'
import type { Campaign } from '../../api/vocabulary'

interface Props {
  campaigns: Campaign[]
  value: string | null
  onChange: (key: string) => void
  error?: string
}

const addOption = '\u0000add'

/** Chooses a campaign by typing a part of its name; a name that is new can be added in place. */
export function CampaignField({ campaigns, value, onChange, error }: Props) {
  const chosen = campaigns.find((c) => c.key === value)
  const [typed, setTyped] = useState<string | null>(null)
  const queries = useQueryClient()
  const combobox = useCombobox({ onDropdownClose: () => combobox.resetSelectedOption() })
  const add = useMutation({
    mutationFn: (name: string) => read(api.POST('/api/v1/campaigns', { body: { name } })),
    onSuccess: (campaign) => {
      queries.setQueryData<Campaign[]>(['campaigns'], (all) => [campaign, ...(all ?? [])])
      take(campaign.key)
    },
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

  function take(key: string) {
    setTyped(null)
    onChange(key)
    combobox.closeDropdown()
  }

  return (
    <Combobox
      store={combobox}
      onOptionSubmit={(option) => (option === addOption ? add.mutate(typed!.trim()) : take(option))}
    >
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
            else add.mutate(text.trim())
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
          {isNew && <Combobox.Option value={addOption}>Add “{typed?.trim()}”</Combobox.Option>}
          {matching.length === 0 && !isNew && (
            <Combobox.Empty>Type the name of a first campaign.</Combobox.Empty>
          )}
        </Combobox.Options>
      </Combobox.Dropdown>
    </Combobox>
  )
}
