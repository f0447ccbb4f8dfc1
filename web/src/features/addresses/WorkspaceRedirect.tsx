import { Select } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, read, wordsOf } from '../../api/client'
import { vocabulary } from '../../api/vocabulary'
import { redirects } from '../../parts/redirects'

/** The redirect type of new links where neither they nor their domain say another. */
export function WorkspaceRedirect({ mayChange }: { mayChange: boolean }) {
  const workspace = useQuery(vocabulary.workspace)
  const queries = useQueryClient()
  const change = useMutation({
    mutationFn: (redirect: number) => read(api.PATCH('/api/v1/workspace', { body: { redirect } })),
    onSuccess: (changed) => queries.setQueryData(['workspace'], changed),
  })
  if (!workspace.data) return null
  return (
    <Select
      mt="xl"
      w={320}
      label="Redirect of new links"
      description="Used unless a short domain has its own. 301 and 308 tell search engines to pass on ranking; 302 and 307 do not. Every visit is counted, whichever type you choose."
      allowDeselect={false}
      readOnly={!mayChange}
      data={redirects}
      value={String(workspace.data.redirect)}
      onChange={(redirect) => change.mutate(Number(redirect))}
      error={change.error && wordsOf(change.error)}
    />
  )
}
