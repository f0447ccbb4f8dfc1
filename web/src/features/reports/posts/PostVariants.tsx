import { Button } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read, type Schema } from '../../../api/client'
import { useChannels } from '../../../api/vocabulary'
import { count, percent } from '../../../parts/format/numbers'
import { Signet } from '../../../parts/Signet'
import { Failed } from '../../../parts/States'
import { mayEdit, useSession } from '../../access/session'
import classes from '../compare/Compare.module.css'
import variants from './PostVariants.module.css'
import { ShareCell } from '../compare/ShareCell'
import { SplitForm, type ChannelVariants } from './SplitForm'
import { ExportPart } from '../compare/ExportPart'

/** Which variant won on each channel that carries more than one of a post; nothing where none does. */
export function PostVariants({ post }: { post: Schema['PostResponse'] }) {
  const report = useQuery({
    queryKey: ['variants', post.id],
    queryFn: () => read(api.GET('/api/v1/posts/{id}/variants', { params: { path: { id: post.id } } })),
    refetchInterval: 30_000,
  })
  if (report.isError) return <Failed error={report.error} onRetry={() => void report.refetch()} />
  if (!report.data?.channels.length) return null
  return (
    <section className={classes.leaf} aria-label="Variants" tabIndex={0}>
      <div className={`${classes.crossing} ${variants.head}`}>
        <h2 className={classes.heading}>Which variant won</h2>
        <ExportPart
          name="variants"
          addressOf={(ending) => `/api/v1/posts/${post.id}/variants.${ending}`}
          endings={['csv', 'xlsx']}
        />
      </div>
      {report.data.channels.map((channel) => (
        <OnChannel key={channel.channel} post={post.id} of={channel} />
      ))}
    </section>
  )
}

function OnChannel({ post, of }: { post: string; of: ChannelVariants }) {
  const channel = useChannels().get(of.channel)
  const isEditor = mayEdit(useSession())
  const [isSplitting, setSplitting] = useState<boolean>()
  const greatest = Math.max(...of.variants.map((v) => v.share))
  return (
    <div className={variants.channel}>
      <h3 className={`${classes.name} ${variants.name}`}>
        <Signet channel={channel} />
        <span>{of.name}</span>
      </h3>
      <p className={variants.answer}>{of.answer}</p>
      <table className={classes.table}>
        <thead>
          <tr>
            <th scope="col">Variant</th>
            <th scope="col">Shown to</th>
            <th scope="col">Clicks</th>
            <th scope="col">Index</th>
            <th scope="col">Share</th>
            <th scope="col">Confidence</th>
          </tr>
        </thead>
        <tbody>
          {of.variants.map((v) => (
            <tr key={v.link}>
              <th scope="row">{v.label}</th>
              <td>{v.exposure === null ? 'alike' : percent(v.exposure / 100)}</td>
              <td>{count(v.clicks)}</td>
              <td>{v.index === null ? '–' : v.index.toFixed(2)}</td>
              <ShareCell share={v.share} greatest={greatest} />
              <td>
                {percent(v.shareLow)} to {percent(v.shareHigh)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {isSplitting ? (
        <SplitForm post={post} of={of} onDone={() => setSplitting(false)} />
      ) : (
        <p className={classes.more}>
          1 is average for this post’s variants; 2 means twice as many clicks per viewer.{' '}
          {!of.isSplit && 'Variants count as shown to equally many people. '}
          {isEditor && (
            <Button
              variant="subtle"
              size="compact-sm"
              autoFocus={isSplitting === false}
              onClick={() => setSplitting(true)}
            >
              {of.isSplit ? 'Change the split' : 'Shown unequally? Set the split'}
            </Button>
          )}
        </p>
      )}
    </div>
  )
}
