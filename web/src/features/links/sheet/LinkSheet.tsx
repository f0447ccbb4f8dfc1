import { Alert, CloseButton, Tabs, Text, Title } from '@mantine/core'
import { useHotkeys } from '@mantine/hooks'
import { useQuery } from '@tanstack/react-query'
import { useNavigate, useParams, useSearch } from '@tanstack/react-router'
import { useState } from 'react'
import { useChannels } from '../../../api/vocabulary'
import { channelPaint } from '../../../parts/channelPaint'
import { addressOf } from '../../../parts/format/addressText'
import { dayOf } from '../../../parts/format/numbers'
import { Signet } from '../../../parts/Signet'
import { Failed, Loading } from '../../../parts/States'
import { mayEdit, useSession } from '../../access/session'
import { LiveArrival } from '../../clicks/LiveArrival'
import { LinkClicks } from '../../reports/posts/LinkClicks'
import { DeleteLink } from './DeleteLink'
import { WhereItLeads } from '../routes/WhereItLeads'
import { LinkActions } from './LinkActions'
import { LinkEditForm } from './LinkEditForm'
import { LinkFacts } from './LinkFacts'
import { LinkFigures } from './LinkFigures'
import { LinkHistory } from './LinkHistory'
import { linkQuery, type Link } from '../links'
import classes from '../list/LinksPage.module.css'
import { RevivalNote } from '../list/RevivalNote'
import { TimeNote } from '../list/TimeNote'

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
  const mayChange = mayEdit(useSession())
  const [doing, setDoing] = useState<'change' | 'delete'>()
  const stop = () => setDoing(undefined)
  const made = [
    channel?.name,
    link.variant,
    link.post?.campaign,
    link.createdBy && `by ${link.createdBy}`,
    dayOf(link.createdAt),
  ]
  return (
    <>
      <div className={classes.over}>
        <Signet channel={channel} />
        <span>{made.filter(Boolean).join(' · ')}</span>
      </div>
      <Title order={2} size={21} mt={6} lh={1.25}>
        {link.title}
      </Title>
      <Text fw={600} c="var(--mantine-color-anchor)" my={10}>
        {addressOf(link.shortUrl)}
      </Text>
      <LinkActions
        link={link}
        mayChange={mayChange}
        onChange={() => setDoing('change')}
        onDelete={() => setDoing('delete')}
      />
      {doing === 'delete' && <DeleteLink link={link} onKeep={stop} onGone={onGone} />}
      <div style={{ marginTop: 10 }}>
        <LiveArrival link={link.id} />
      </div>
      {link.deletedAt && <RevivalNote link={link} mayRevive={mayChange} />}
      <TimeNote link={link} />
      {link.archivedAt && !link.deletedAt && (
        <Alert variant="default" mt="md" title={`Archived on ${dayOf(link.archivedAt)}`}>
          It still works, but is hidden from lists.
        </Alert>
      )}
      {doing === 'change' ? (
        <LinkEditForm link={link} onDone={stop} />
      ) : (
        <>
          <LinkFigures link={link} color={channelPaint(channel)} />
          <Tabs defaultValue="leads" keepMounted={false}>
            <Tabs.List mb="md">
              <Tabs.Tab value="leads">Destination</Tabs.Tab>
              <Tabs.Tab value="clicks">Clicks</Tabs.Tab>
              <Tabs.Tab value="history">History</Tabs.Tab>
            </Tabs.List>
            <Tabs.Panel value="leads">
              {!link.deletedAt && <WhereItLeads link={link} mayChange={mayChange} />}
              <LinkFacts link={link} />
            </Tabs.Panel>
            <Tabs.Panel value="clicks">
              <LinkClicks link={link} />
            </Tabs.Panel>
            <Tabs.Panel value="history">
              <LinkHistory link={link} mayRestore={mayChange} />
            </Tabs.Panel>
          </Tabs>
        </>
      )}
    </>
  )
}
