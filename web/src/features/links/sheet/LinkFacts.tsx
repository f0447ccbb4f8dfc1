import { Link as RouterLink } from '@tanstack/react-router'
import { addressOf } from '../../../parts/format/addressText'
import { Fact, Facts } from '../../../parts/Facts'
import { boundText, endOf, openingOf } from '../../../parts/format/linkTime'
import { TagPills } from '../../../parts/TagPill'
import { toLink } from '../../../parts/toLink'
import { useWorkspaceZone } from '../../access/session'
import { CheckFact } from '../../checking/CheckFact'
import type { Link } from '../links'

/** Everything about a link that somebody chose. */
export function LinkFacts({ link }: { link: Link }) {
  const timeZone = useWorkspaceZone()
  const utm = [link.source, link.medium, link.campaign, link.content, link.term].filter(Boolean).join(' / ')
  return (
    <Facts>
      <Fact label="Destination">{link.destination}</Fact>
      <Fact label="With UTM values">{link.finalUrl}</Fact>
      <Fact label="Link check">{link.check && <CheckFact check={link.check} />}</Fact>
      <Fact label="Fallback">{link.fallback}</Fact>
      <Fact label="Opens">{link.opensAt && boundText(openingOf(link.opensAt, timeZone))}</Fact>
      <Fact label="Ends">{link.endsAt && boundText(endOf(link.endsAt, timeZone))}</Fact>
      <Fact label="UTM">{link.source && utm}</Fact>
      <Fact label="Redirect">{link.redirect}</Fact>
      <Fact label="Also at">
        {link.aliases.map((alias) => (
          <div key={alias}>{addressOf(alias)}</div>
        ))}
      </Fact>
      <Fact label="Note">{link.note}</Fact>
      <Fact label="Folder">{link.folder}</Fact>
      <Fact label="Tags">{link.tags.length > 0 && <TagPills names={link.tags} />}</Fact>
      <Fact label="Pixels">
        {link.firingPixels.map((pixel) => (
          <div key={`${pixel.id} ${pixel.place}`}>
            <RouterLink
              to="/audiences/$pixelId"
              params={{ pixelId: pixel.id }}
              search={{ link: link.id }}
              style={toLink}
            >
              {pixel.name}
            </RouterLink>
            {pixel.place !== 'link' && `, from its ${pixel.place}`}
          </div>
        ))}
      </Fact>
      <Fact label="Post">
        {link.post && (
          <RouterLink to="/posts/$postId" params={{ postId: link.post.id }} style={toLink}>
            {link.post.title}
          </RouterLink>
        )}
      </Fact>
    </Facts>
  )
}
