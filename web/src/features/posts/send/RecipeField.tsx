import { Button, Group, Popover, Select, TextInput } from '@mantine/core'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read } from '../../../api/client'
import type { Recipe } from '../../../api/vocabulary'
import { toRequest, type Draft } from './draft'

interface Props {
  recipes: Recipe[]
  value: string | null
  draft: Draft
  onApply: (recipe: Recipe) => void
  onSaved: (recipe: Recipe) => void
}

/** Picks a saved way to send, or saves the sheet as one. */
export function RecipeField({ recipes, value, draft, onApply, onSaved }: Props) {
  const [isNaming, setIsNaming] = useState(false)
  const [name, setName] = useState('')
  const queries = useQueryClient()
  const save = useMutation({
    mutationFn: () => read(api.POST('/api/v1/recipes', { body: { name, content: toRequest(draft) } })),
    onSuccess: async (recipe) => {
      setIsNaming(false)
      setName('')
      await queries.invalidateQueries({ queryKey: ['recipes'] })
      onSaved(recipe)
    },
  })
  return (
    <Popover opened={isNaming} onChange={setIsNaming} position="bottom-end" trapFocus withinPortal>
      <Popover.Target>
        <Select
          label="Recipe"
          placeholder="None"
          data={[
            ...recipes.map((r) => ({ value: r.id, label: r.name })),
            { value: 'save', label: 'Save as recipe' },
          ]}
          value={value}
          onChange={(id) => {
            if (id === 'save') return setIsNaming(true)
            const recipe = recipes.find((r) => r.id === id)
            if (recipe) onApply(recipe)
          }}
        />
      </Popover.Target>
      <Popover.Dropdown>
        <form
          onSubmit={(event) => {
            event.preventDefault()
            event.stopPropagation()
            save.mutate()
          }}
        >
          <Group align="end" gap={8}>
            <TextInput
              label="Recipe name"
              placeholder="Event, all channels"
              required
              data-autofocus
              value={name}
              onChange={(event) => setName(event.currentTarget.value)}
              error={save.error?.message}
            />
            <Button type="submit" loading={save.isPending}>
              Save recipe
            </Button>
          </Group>
        </form>
      </Popover.Dropdown>
    </Popover>
  )
}
