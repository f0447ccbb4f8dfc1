import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { api, read } from '../../../api/client'
import { offerUndo } from '../handout/offerUndo'
import { ticked, toRequest, type Draft } from './draft'
import { askPreview } from './usePreview'

/** Saves a draft as a post, goes to it, and offers to take it back.
 * @param pageTitle What the page calls itself; null where that isn't known.
 * @param onSaved Done before the post is shown. */
export function useSaving(draft: Draft, pageTitle: string | null, onSaved: () => Promise<void>) {
  const queries = useQueryClient()
  const navigate = useNavigate()
  return useMutation({
    mutationFn: async () => {
      // The preview on the screen may be a moment behind somebody who types quickly; saving goes by a fresh one.
      const fresh = await askPreview(draft)
      const title = (pageTitle ?? fresh.proposedTitle).slice(0, 200)
      const slugs = new Map(
        ticked(draft).flatMap((row, i) => {
          const proposed = fresh.placements[i]
          return proposed?.slug && !proposed.isTaken ? [[row.id, proposed.slug] as const] : []
        }),
      )
      return read(api.POST('/api/v1/posts', { body: toRequest(draft, { title, slugs }) }))
    },
    onSuccess: async (post) => {
      queries.setQueryData(['post', post.id], post)
      for (const queryKey of [['links'], ['tags'], ['find']]) void queries.invalidateQueries({ queryKey })
      await onSaved()
      await navigate({ to: '/posts/$postId', params: { postId: post.id } })
      offerUndo(post, draft, queries, (id) => navigate({ to: '/send', search: { draft: id } }))
    },
    // A slug lost to somebody else in this moment shows with its alternatives in its row.
    onError: () => void queries.invalidateQueries({ queryKey: ['preview'] }),
  })
}
