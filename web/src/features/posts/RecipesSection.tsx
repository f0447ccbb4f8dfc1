import { Text } from '@mantine/core'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { api, read } from '../../api/client'
import { useChannels, vocabulary, type Recipe } from '../../api/vocabulary'
import { NameActions } from '../../parts/NameActions'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { mayEdit, useSession } from '../access/session'

/** Recipes: saved channels, tags and options. They are made in Send. */
export function RecipesSection() {
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
      {recipes.data.length === 0 ? (
        <Text c="dimmed">No recipes yet. Fill in Send the way you often do, then save it as a recipe.</Text>
      ) : (
        <Sheet
          about="A recipe is a saved set of channels, tags and options. Create one in Send."
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
                      loses="Posts made with it are kept."
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
