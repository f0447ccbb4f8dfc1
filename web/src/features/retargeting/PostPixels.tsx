import { Text } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { api, read, wordsOf, type Schema } from '../../api/client'
import { mayEdit, useSession } from '../access/session'
import { pixelsQuery } from './pixels'
import { PixelsField } from './PixelsField'

/** The pixels that fire for all links of a post; nothing where the workspace has none. Each choice is saved as it is made. */
export function PostPixels({ post }: { post: Schema['PostResponse'] }) {
  const pixels = useQuery(pixelsQuery)
  const isEditor = mayEdit(useSession())
  const queries = useQueryClient()
  const attach = useMutation({
    mutationFn: (ids: string[]) =>
      read(
        api.PUT('/api/v1/posts/{id}/pixels', { params: { path: { id: post.id } }, body: { pixels: ids } }),
      ),
    onSuccess: () =>
      Promise.all(
        [['post', post.id], ['pixels'], ['links']].map((queryKey) => queries.invalidateQueries({ queryKey })),
      ),
  })
  if (!pixels.data?.length) return null
  const firing = post.placements.flatMap((p) => p.link.firingPixels)
  const ofPost = [...new Set(firing.filter((p) => p.place === 'post').map((p) => p.id))]
  const names = [...new Map(firing.map((p) => [p.id, p.name])).entries()]
  return (
    <div style={{ maxWidth: 520, marginTop: 18 }}>
      <PixelsField
        label="Pixels for all its links"
        description="In addition to those of its campaign, channels and short domains"
        readOnly={!isEditor}
        value={attach.isPending ? attach.variables : ofPost}
        onChange={(ids) => attach.mutate(ids)}
        error={attach.error && wordsOf(attach.error)}
      />
      {names.length > 0 && (
        <Text size="sm" c="dimmed" mt={6}>
          Pixels that fire:{' '}
          {names.map(([id, name], i) => (
            <span key={id}>
              {i > 0 && ', '}
              <Link
                to="/audiences/$pixelId"
                params={{ pixelId: id }}
                search={{ post: post.id }}
                style={{ color: 'inherit' }}
              >
                {name}
              </Link>
            </span>
          ))}
          .
        </Text>
      )}
    </div>
  )
}
