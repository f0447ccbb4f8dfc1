import { Button, Select, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { api, fieldErrors, read, wordsOf } from '../../api/client'
import { vocabulary, type Campaign } from '../../api/vocabulary'
import { AddForm } from '../../parts/AddForm'
import { NameActions } from '../../parts/NameActions'
import { count } from '../../parts/format/numbers'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { mayEdit, useSession } from '../access/session'

export function CampaignsSection() {
  const campaigns = useQuery(vocabulary.campaigns)
  const recipes = useQuery(vocabulary.recipes)
  const session = useSession()
  const queries = useQueryClient()
  const form = useForm({ initialValues: { name: '' } })
  const add = useMutation({
    mutationFn: (body: typeof form.values) => read(api.POST('/api/v1/campaigns', { body })),
    onSuccess: async () => {
      form.reset()
      await queries.invalidateQueries({ queryKey: ['campaigns'] })
    },
  })
  if (campaigns.isError) return <Failed error={campaigns.error} onRetry={() => void campaigns.refetch()} />
  if (!campaigns.data || recipes.isPending) return <Loading />
  return (
    <>
      <Sheet
        about="A campaign groups posts with one goal. Its value goes into addresses, so it is set once, from the name."
        columns={['Campaign', 'Value', 'Posts', 'Default recipe', 'Fallback', '']}
      >
        {campaigns.data.map((campaign) => (
          <tr key={campaign.id}>
            <td>
              <Link
                to="/campaigns/$campaignKey"
                params={{ campaignKey: campaign.key }}
                style={{ color: 'inherit' }}
              >
                {campaign.name}
              </Link>
            </td>
            <td>{campaign.key}</td>
            <td>{count(campaign.posts)}</td>
            <td>
              <CampaignRecipe campaign={campaign} mayChange={mayEdit(session)} />
            </td>
            <td>
              <CampaignFallback campaign={campaign} mayChange={mayEdit(session)} />
            </td>
            <td>{mayEdit(session) && <CampaignActions campaign={campaign} />}</td>
          </tr>
        ))}
      </Sheet>
      {mayEdit(session) && (
        <AddForm error={add.error} onSubmit={form.onSubmit((values) => add.mutate(values))}>
          <TextInput label="New campaign" required {...form.getInputProps('name')} />
          <Button type="submit" loading={add.isPending}>
            Add campaign
          </Button>
        </AddForm>
      )}
    </>
  )
}

function CampaignActions({ campaign }: { campaign: Campaign }) {
  const queries = useQueryClient()
  const path = { params: { path: { id: campaign.id } } }
  const refresh = () =>
    Promise.all([['campaigns'], ['links']].map((queryKey) => queries.invalidateQueries({ queryKey })))
  return (
    <NameActions
      name={campaign.name}
      loses={
        campaign.posts > 0 ? 'Only a campaign without links can be deleted.' : 'It disappears from Send.'
      }
      onRename={(name) =>
        read(api.PATCH('/api/v1/campaigns/{id}', { ...path, body: { name } })).then(refresh)
      }
      onDelete={() => read(api.DELETE('/api/v1/campaigns/{id}', path)).then(refresh)}
    />
  )
}

const noRecipe = '00000000-0000-0000-0000-000000000000'

/** The recipe that the campaign's posts begin with. */
function CampaignRecipe({ campaign, mayChange }: { campaign: Campaign; mayChange: boolean }) {
  const recipes = useQuery(vocabulary.recipes)
  const queries = useQueryClient()
  const change = useMutation({
    mutationFn: (recipe: string | null) =>
      read(
        api.PATCH('/api/v1/campaigns/{id}', {
          params: { path: { id: campaign.id } },
          body: { recipe: recipe ?? noRecipe },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['campaigns'] }),
  })
  if (!recipes.data?.length) return null
  if (!mayChange) return recipes.data.find((r) => r.id === campaign.recipe)?.name
  return (
    <Select
      aria-label={`Recipe of ${campaign.name}`}
      size="sm"
      w={150}
      clearable
      placeholder="none"
      data={recipes.data.map((r) => ({ value: r.id, label: r.name }))}
      value={campaign.recipe}
      onChange={(recipe) => change.mutate(recipe)}
      error={change.error && wordsOf(change.error)}
    />
  )
}

/** Where visitors of the campaign's links are led while a page is dead; saved on leaving the field. */
function CampaignFallback({ campaign, mayChange }: { campaign: Campaign; mayChange: boolean }) {
  const queries = useQueryClient()
  const [typed, setTyped] = useState(campaign.fallback ?? '')
  const change = useMutation({
    mutationFn: (fallback: string) =>
      read(
        api.PATCH('/api/v1/campaigns/{id}', { params: { path: { id: campaign.id } }, body: { fallback } }),
      ),
    onSuccess: (changed) => {
      setTyped(changed.fallback ?? '')
      return queries.invalidateQueries({ queryKey: ['campaigns'] })
    },
  })
  if (!mayChange) return campaign.fallback
  return (
    <TextInput
      aria-label={`Fallback of ${campaign.name}`}
      size="sm"
      placeholder="workspace default"
      value={typed}
      onChange={(event) => setTyped(event.currentTarget.value)}
      onBlur={() => typed.trim() !== (campaign.fallback ?? '') && change.mutate(typed)}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      error={change.error && (fieldErrors(change.error).fallback ?? wordsOf(change.error))}
    />
  )
}
