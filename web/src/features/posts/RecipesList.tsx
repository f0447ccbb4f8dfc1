import { Text, Title } from '@mantine/core'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { api, read } from '../../api/client'
import { useChannels, vocabulary, type Recipe } from '../../api/vocabulary'
import { NameActions } from '../../parts/NameActions'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { mayEdit, useSession } from '../access/session'

/** Saved ways to send; they are made on the Send sheet. */
export function RecipesList() {
  const recipes = useQuery(vocabulary.recipes)
  const channels = useChannels()
  const isEditor = mayEdit(useSession())
  const queries = useQueryClient()
  const refresh = () =>
    Promise.all([['recipes'], ['campaigns']].map((queryKey) => queries.invalidateQueries({ queryKey })))
  if (recipes.isError) return <Failed error={recipes.error} onRetry={() => void recipes.refetch()} />
  if (!recipes.data) return <Loading rows={2} />
  const channelsOf = (recipe: Recipe) =>
    (recipe.content.placements ?? [])
      .map((row) =>
        [channels.get(row.channel ?? '')?.name ?? row.channel, row.variant].filter(Boolean).join(' '),
      )
      .join(', ')
  return (
    <>
      <Title order={2} size={18} mt="xl" mb={4}>
        Recipes
      </Title>
      {recipes.data.length === 0 ? (
        <Text c="dimmed">
          None yet. Fill in the Send sheet as you often do, then save it as a recipe there.
        </Text>
      ) : (
        <Sheet
          about="A recipe is a saved way to send: channels, tags and options. It is made on the Send sheet."
          columns={['Recipe', 'Channels', 'Tags', '']}
        >
          {recipes.data.map((recipe) => {
            const path = { params: { path: { id: recipe.id } } }
            return (
              <tr key={recipe.id}>
                <td>{recipe.name}</td>
                <td>{channelsOf(recipe)}</td>
                <td>{recipe.content.tags?.join(', ')}</td>
                <td style={{ textAlign: 'right' }}>
                  {isEditor && (
                    <NameActions
                      name={recipe.name}
                      loses="Posts that were sent by it stay."
                      onRename={(name) =>
                        read(api.PATCH('/api/v1/recipes/{id}', { ...path, body: { name } })).then(refresh)
                      }
                      onDelete={() => read(api.DELETE('/api/v1/recipes/{id}', path)).then(refresh)}
                    />
                  )}
                </td>
              </tr>
            )
          })}
        </Sheet>
      )}
    </>
  )
}
