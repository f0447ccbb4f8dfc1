import { Alert, Button, CloseButton, Group, Text, Title } from '@mantine/core'
import { useHotkeys } from '@mantine/hooks'
import { IconCopy, IconExternalLink, IconPencil, IconTrash } from '@tabler/icons-react'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link as RouterLink, useNavigate, useParams, useSearch } from '@tanstack/react-router'
import { useState } from 'react'
import { api, read } from '../../api/client'
import { useChannels } from '../../api/vocabulary'
import { copy } from '../../parts/copy'
import { count, day } from '../../parts/numbers'
import { Signet } from '../../parts/Signet'
import { TagPills } from '../../parts/TagPill'
import { Failed, Loading } from '../../parts/States'
import { mayEdit, useSession } from '../access/session'
import { CodeButton } from '../codes/CodeButton'
import { LiveArrival } from '../clicks/LiveArrival'
import { LinkEditForm } from './LinkEditForm'
import { linkQuery, type Link } from './links'
import { RevivalNote } from './RevivalNote'
import { LinkFigures } from './LinkFigures'
import classes from './LinksPage.module.css'

/** One link beside the list, at an address of its own. */
export function LinkSheet() {
  const { linkId } = useParams({ from: '/members/links/$linkId' })
  const search = useSearch({ from: '/members/links' })
  const navigate = useNavigate()
  const link = useQuery(linkQuery(linkId))
  const close = () => void navigate({ to: '/links', search })
  useHotkeys([['Escape', close]])
  return (
    <aside className={classes.sheet} aria-label="Link">
      <CloseButton aria-label="Close this link" onClick={close} style={{ float: 'right' }} />
      {link.isPending && <Loading />}
      {link.isError && <Failed error={link.error} onRetry={() => void link.refetch()} />}
      {link.data && <Details key={link.data.id} link={link.data} onGone={close} />}
    </aside>
  )
}

function Details({ link, onGone }: { link: Link; onGone: () => void }) {
  const channel = useChannels().get(link.channel ?? '')
  const session = useSession()
  const queries = useQueryClient()
  const [isEditing, setIsEditing] = useState(false)
  const [isLeaving, setIsLeaving] = useState(false)
  const remove = useMutation({
    mutationFn: () => read(api.DELETE('/api/v1/links/{id}', { params: { path: { id: link.id } } })),
    onSuccess: async () => {
      onGone()
      queries.removeQueries({ queryKey: ['links', 'one', link.id] })
      await queries.invalidateQueries({ queryKey: ['links'] })
    },
  })
  return (
    <>
      <div className={classes.over}>
        <Signet channel={channel} />
        <span>
          {[
            channel?.name,
            link.variant,
            link.post?.campaign,
            link.createdBy && `by ${link.createdBy}`,
            day(link.createdAt.slice(0, 10)),
          ]
            .filter(Boolean)
            .join(' · ')}
        </span>
      </div>
      <Title order={2} size={21} mt={6} lh={1.25}>
        {link.title}
      </Title>
      <Text fw={600} c="var(--mantine-color-anchor)" my={10}>
        {link.shortUrl.replace(/^https?:\/\//, '')}
      </Text>
      <Group gap={8}>
        <Button
          leftSection={<IconCopy size={16} aria-hidden />}
          onClick={() => void copy('Address', link.shortUrl)}
        >
          Copy
        </Button>
        <Button
          variant="default"
          component="a"
          href={`/api/v1/links/${link.id}/open`}
          target="_blank"
          rel="noreferrer"
          leftSection={<IconExternalLink size={16} aria-hidden />}
        >
          Open, not counted
        </Button>
        {!link.deletedAt && <CodeButton link={link.id} hasKey />}
      </Group>
      <div style={{ marginTop: 10 }}>
        <LiveArrival link={link.id} />
      </div>
      {link.deletedAt && <RevivalNote link={link} mayRevive={mayEdit(session)} />}
      <LinkFigures link={link} color={channel?.color ?? 8} />
      {isEditing ? (
        <LinkEditForm link={link} onDone={() => setIsEditing(false)} />
      ) : (
        <>
          <dl className={classes.facts}>
            <dt>Destination</dt>
            <dd>{link.destination}</dd>
            <dt>Leads to</dt>
            <dd>{link.finalUrl}</dd>
            {link.source && (
              <>
                <dt>UTM</dt>
                <dd>
                  {[link.source, link.medium, link.campaign, link.content, link.term]
                    .filter(Boolean)
                    .join(' / ')}
                </dd>
              </>
            )}
            <dt>Redirect</dt>
            <dd>{link.redirect}</dd>
            {link.note && (
              <>
                <dt>Note</dt>
                <dd>{link.note}</dd>
              </>
            )}
            {link.folder && (
              <>
                <dt>Folder</dt>
                <dd>{link.folder}</dd>
              </>
            )}
            {link.tags.length > 0 && (
              <>
                <dt>Tags</dt>
                <dd>
                  <TagPills names={link.tags} />
                </dd>
              </>
            )}
            {link.firingPixels.length > 0 && (
              <>
                <dt>Pixels</dt>
                <dd>
                  {link.firingPixels.map((pixel) => (
                    <div key={`${pixel.id} ${pixel.place}`}>
                      <RouterLink
                        to="/audiences/$pixelId"
                        params={{ pixelId: pixel.id }}
                        search={{ link: link.id }}
                        style={{ color: 'var(--mantine-color-anchor)' }}
                      >
                        {pixel.name}
                      </RouterLink>
                      {pixel.place !== 'link' && `, by its ${pixel.place}`}
                    </div>
                  ))}
                </dd>
              </>
            )}
            {link.post && (
              <>
                <dt>Post</dt>
                <dd>
                  <RouterLink
                    to="/posts/$postId"
                    params={{ postId: link.post.id }}
                    style={{ color: 'var(--mantine-color-anchor)' }}
                  >
                    {link.post.title}
                  </RouterLink>
                </dd>
              </>
            )}
          </dl>
          {mayEdit(session) && !link.deletedAt && (
            <Group gap={8} mt="lg">
              <Button
                variant="default"
                leftSection={<IconPencil size={16} aria-hidden />}
                onClick={() => setIsEditing(true)}
              >
                Change
              </Button>
              <Button
                variant="subtle"
                color="red"
                leftSection={<IconTrash size={16} aria-hidden />}
                onClick={() => setIsLeaving(true)}
              >
                Delete
              </Button>
            </Group>
          )}
          {isLeaving && (
            <Alert mt="md" role="alertdialog" variant="default" title={`Delete ${link.slug}?`}>
              <Text size="sm">
                It has {count(link.clicks)} clicks. Everybody who follows it from now on is told that it has
                ended. Its slug is kept for it for 180 days, and so long it can be brought back.
              </Text>
              <Group gap={8} mt="sm">
                <Button color="red" loading={remove.isPending} onClick={() => remove.mutate()}>
                  Delete the link
                </Button>
                <Button variant="default" onClick={() => setIsLeaving(false)} data-autofocus>
                  Keep it
                </Button>
              </Group>
            </Alert>
          )}
          {remove.isError && <Failed error={remove.error} />}
        </>
      )}
    </>
  )
}
