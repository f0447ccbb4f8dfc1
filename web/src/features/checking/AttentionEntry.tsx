import { Anchor, Text } from '@mantine/core'
import { Link } from '@tanstack/react-router'
import { addressOf } from '../../parts/format/addressText'
import { count, counted, dayOf, timeOf } from '../../parts/format/numbers'
import { mayEdit, useSession } from '../access/session'
import { toLink } from '../../parts/toLink'
import classes from './Attention.module.css'
import { AttentionActions } from './AttentionActions'
import { verdicts, type CarePage } from './checks'

/** One page that needs care: what was found, whom it hurts, and what can be done. */
export function AttentionEntry({ page }: { page: CarePage }) {
  const { label, color } = verdicts[page.verdict]
  const mayChange = mayEdit(useSession())
  return (
    <li className={classes.entry} aria-label={addressOf(page.address)}>
      <div>
        <Anchor href={page.address} target="_blank" rel="noreferrer" className={classes.address}>
          {addressOf(page.address)}
        </Anchor>
        <div>
          <span className={classes.verdict} style={{ color }}>
            {label}
          </span>
          {page.since && ` since ${dayOf(page.since)}`}. {page.text}
        </div>
        {page.leadsTo && page.verdict !== 'gone' && <div>It redirects to {addressOf(page.leadsTo)}.</div>}
        {page.fallbacks.length > 0 && (
          <div>For now, visitors go to {page.fallbacks.map(addressOf).join(', ')}.</div>
        )}
        <Hurts page={page} />
        <Text size="sm" c="dimmed" mt={4}>
          {page.ignoredUntil
            ? `Ignored until ${dayOf(page.ignoredUntil)}`
            : page.checkedAt && `Checked ${timeOf(page.checkedAt)}`}
          {page.nextCheckAt && `, again ${timeOf(page.nextCheckAt)}`}
        </Text>
      </div>
      <div className={classes.clicks}>
        <div className={classes.big}>{count(page.recentClicks)}</div>
        <Text size="sm" c="dimmed">
          {page.recentClicks === 1 ? 'click' : 'clicks'} in 30 days
        </Text>
        <Text size="sm">
          <Link to="/links" search={{ page: page.id, state: 'all' }} style={toLink}>
            {counted(page.links, 'link')}
          </Link>
        </Text>
      </div>
      {mayChange && (
        <div className={classes.actions}>
          <AttentionActions page={page} />
        </div>
      )}
    </li>
  )
}

/** The posts and campaigns that lead people there. */
function Hurts({ page }: { page: CarePage }) {
  return (
    <ul className={classes.hurts}>
      {page.hurts.map((hurt) => (
        <li key={`${hurt.post} ${hurt.campaign}`}>
          {hurt.post ? (
            <Link to="/posts/$postId" params={{ postId: hurt.post }} style={{ color: 'inherit' }}>
              {hurt.title}
            </Link>
          ) : (
            counted(hurt.links, 'link without a post', 'links without a post')
          )}
          {hurt.campaignName && `, ${hurt.campaignName}`}
          <Text span size="sm" c="dimmed">
            {' '}
            {counted(hurt.recentClicks, 'click')}
          </Text>
        </li>
      ))}
      {page.hurtsInAll > page.hurts.length && <li>and {count(page.hurtsInAll - page.hurts.length)} more</li>}
    </ul>
  )
}
