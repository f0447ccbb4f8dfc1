import { Group, SegmentedControl, Text } from '@mantine/core'
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link, useNavigate, useParams } from '@tanstack/react-router'
import { useState } from 'react'
import { api, read } from '../../api/client'
import { NameActions } from '../../parts/NameActions'
import { count, counted, percent } from '../../parts/format/numbers'
import { Page } from '../../parts/Page'
import { Empty, Failed, Loading } from '../../parts/States'
import { mayEdit, useSession } from '../access/session'
import { Attachments } from './Attachments'
import classes from './Audiences.module.css'
import { DefineAudience } from './DefineAudience'
import { OutcomeBar } from './OutcomeBar'
import {
  audienceQuery,
  outcomes,
  parts,
  pixelQuery,
  usualWindow,
  visitsOf,
  type Audience,
  type PartBy,
  type Pixel,
} from './pixels'
import { TestFire } from './TestFire'

/** One pixel: about how many visitors its network knows, what became of it at each visit, where it fires, and how to define an audience. */
export function PixelPage() {
  const { pixelId } = useParams({ from: '/members/audiences/$pixelId' })
  const pixel = useQuery(pixelQuery(pixelId))
  const [days, setDays] = useState(usualWindow)
  const [by, setBy] = useState<PartBy>('campaign')
  const audience = useQuery({ ...audienceQuery(pixelId, days, by), placeholderData: keepPreviousData })
  const session = useSession()
  if (pixel.isError)
    return (
      <Page title="Pixel">
        <Failed error={pixel.error} onRetry={() => void pixel.refetch()} />
      </Page>
    )
  if (!pixel.data)
    return (
      <Page title="Pixel">
        <Loading />
      </Page>
    )
  return (
    <Page title={pixel.data.name} beside={session?.role === 'owner' && <OwnerActions pixel={pixel.data} />}>
      <Text c="dimmed" mt={-10} mb="md">
        <Link to="/audiences" style={{ color: 'inherit' }}>
          Audiences
        </Link>{' '}
        · {pixel.data.networkName} · <code>{pixel.data.reference}</code>
      </Text>
      <div className={classes.columns}>
        <div>
          <section className={classes.leaf} aria-label="Visitors">
            {audience.isError ? (
              <Failed error={audience.error} onRetry={() => void audience.refetch()} />
            ) : audience.data ? (
              <Visitors pixel={pixel.data} audience={audience.data} by={by} onDays={setDays} onBy={setBy} />
            ) : (
              <Loading rows={4} />
            )}
          </section>
        </div>
        <div>
          <Attachments pixel={pixel.data} mayChange={mayEdit(session)} />
          <DefineAudience pixel={pixel.data} />
          {mayEdit(session) && <TestFire pixel={pixel.data} />}
        </div>
      </div>
    </Page>
  )
}

interface VisitorsProps {
  pixel: Pixel
  audience: Audience
  by: PartBy
  onDays: (days: number) => void
  onBy: (by: PartBy) => void
}

function Visitors({ pixel, audience, by, onDays, onBy }: VisitorsProps) {
  const window = audience.windows.find((w) => w.days === audience.days)!
  const visits = visitsOf(audience.outcomes)
  if (audience.windows.every((w) => w.visits === 0) && visits === 0)
    return (
      <Empty title="Not fired yet">
        {pixel.links === 0
          ? 'Attach it to a campaign, channel or short domain, or to individual links, and their visits are counted here.'
          : 'Visits appear here as soon as someone follows one of its links.'}
      </Empty>
    )
  return (
    <>
      <p className={classes.answer}>
        {pixel.networkName} has about {counted(window.visitors, 'visitor')} of the last {window.days} days
        {audience.smallest !== null &&
          (window.isTooSmall
            ? `, too few to use: the minimum is ${count(audience.smallest)}.`
            : `, enough to use.`)}
        {audience.smallest === null && '.'}
      </p>
      <Group justify="space-between" mb={6}>
        <SegmentedControl
          size="sm"
          className={classes.choice}
          aria-label="Window"
          value={String(audience.days)}
          onChange={(value) => onDays(Number(value))}
          data={audience.windows.map((w) => ({ value: String(w.days), label: `${w.days} days` }))}
        />
        <SegmentedControl
          size="sm"
          aria-label="Show by"
          value={by}
          onChange={(value) => onBy(value as PartBy)}
          data={Object.entries(parts).map(([value, label]) => ({ value, label: `by ${label}` }))}
        />
      </Group>
      <div style={{ overflowX: 'auto' }}>
        <table className={classes.windows}>
          <thead>
            <tr>
              <th scope="col">Window</th>
              <th scope="col">Visits</th>
              <th scope="col">Visitors, about</th>
              <th scope="col">
                {audience.smallest !== null && `${pixel.networkName} needs ${count(audience.smallest)}`}
              </th>
            </tr>
          </thead>
          <tbody>
            {audience.windows.map((w) => (
              <tr key={w.days} aria-current={w.days === audience.days}>
                <th scope="row">{w.days} days</th>
                <td>{count(w.visits)}</td>
                <td>{count(w.visitors)}</td>
                <td>
                  {audience.smallest !== null &&
                    (w.isTooSmall ? (
                      <span className={classes.small}>too small</span>
                    ) : (
                      <span className={classes.enough}>enough</span>
                    ))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {audience.advice.map((sentence) => (
        <p key={sentence} className={classes.advice}>
          {sentence}
        </p>
      ))}
      <h2 style={{ marginTop: 22 }}>
        Results of {count(visits)} visits in {audience.days} days
      </h2>
      <OutcomeBar of={audience.outcomes} />
      <div style={{ overflowX: 'auto', marginTop: 14 }}>
        <table className={classes.windows}>
          <thead>
            <tr>
              <th scope="col">{parts[by]}</th>
              <th scope="col">Visitors, about</th>
              {outcomes.map(({ key, label }) => (
                <th key={key} scope="col">
                  {label}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {audience.parts.map((part) => {
              const all = visitsOf(part.outcomes)
              return (
                <tr key={part.key}>
                  <td>{part.label}</td>
                  <td>{count(part.visitors)}</td>
                  {outcomes.map(({ key }) => (
                    <td key={key} title={percent(part.outcomes[key] / Math.max(1, all))}>
                      {count(part.outcomes[key])}
                    </td>
                  ))}
                </tr>
              )
            })}
          </tbody>
        </table>
      </div>
    </>
  )
}

function OwnerActions({ pixel }: { pixel: Pixel }) {
  const queries = useQueryClient()
  const navigate = useNavigate()
  const path = { params: { path: { id: pixel.id } } }
  const refresh = () => queries.invalidateQueries({ queryKey: ['pixels'] })
  return (
    <NameActions
      name={pixel.name}
      loses="Its counts are deleted too; the ad network keeps its own data."
      onRename={(name) => read(api.PATCH('/api/v1/pixels/{id}', { ...path, body: { name } })).then(refresh)}
      onDelete={async () => {
        await read(api.DELETE('/api/v1/pixels/{id}', path))
        await navigate({ to: '/audiences' })
        queries.removeQueries({ queryKey: ['pixels', pixel.id] })
        await refresh()
      }}
    />
  )
}
