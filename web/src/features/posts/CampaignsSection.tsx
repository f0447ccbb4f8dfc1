import { Button, TextInput } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { api, read } from '../../api/client'
import { vocabulary } from '../../api/vocabulary'
import { AddForm } from '../../parts/AddForm'
import { count } from '../../parts/numbers'
import { Sheet } from '../../parts/Sheet'
import { Failed, Loading } from '../../parts/States'
import { mayEdit, useSession } from '../access/session'

export function CampaignsSection() {
  const campaigns = useQuery(vocabulary.campaigns)
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
  if (!campaigns.data) return <Loading />
  return (
    <>
      <Sheet
        about="A campaign is what several posts are for. Its value is written into addresses, so it is made once from the name and then stays."
        columns={['Campaign', 'Value', 'Posts']}
      >
        {campaigns.data.map((campaign) => (
          <tr key={campaign.id}>
            <td>
              <Link to="/compare" search={{ campaign: campaign.key }} style={{ color: 'inherit' }}>
                {campaign.name}
              </Link>
            </td>
            <td>{campaign.key}</td>
            <td>{count(campaign.posts)}</td>
          </tr>
        ))}
      </Sheet>
      {mayEdit(session) && (
        <AddForm error={add.error} onSubmit={form.onSubmit((values) => add.mutate(values))}>
          <TextInput label="Name of a new campaign" required {...form.getInputProps('name')} />
          <Button type="submit" loading={add.isPending}>
            Add campaign
          </Button>
        </AddForm>
      )}
    </>
  )
}
