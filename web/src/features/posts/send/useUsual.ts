import { useQuery } from '@tanstack/react-query'
import { vocabulary, type Domain } from '../../../api/vocabulary'
import type { PostSettings } from './draft'

/** What new links on a short domain have where neither the post nor its row says: the domain’s, else the workspace’s. */
export function useUsual(domain: Domain | undefined): PostSettings {
  const { data: workspace } = useQuery(vocabulary.workspace)
  return {
    redirect: domain?.redirect ?? workspace?.redirect,
    slugKind: workspace?.slugKind,
    options: domain?.hasOwnOptions ? domain.options : workspace?.options,
  }
}

/** What a row gets where it sets nothing: the settings of all rows, then the defaults. */
export const over = (usual: PostSettings, all: PostSettings): PostSettings => ({
  ...usual,
  ...all,
  options: { ...usual.options, ...all.options },
})
