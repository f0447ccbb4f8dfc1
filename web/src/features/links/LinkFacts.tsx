import { Link as RouterLink } from '@tanstack/react-router'
import type { ReactNode } from 'react'
import { addressOf } from '../../parts/addressText'
import { TagPills } from '../../parts/TagPill'
import { toLink } from '../../parts/toLink'
import { CheckFact } from '../checking/CheckFact'
import type { Link } from './links'
import classes from './LinksPage.module.css'

/** Everything about a link that somebody chose. */
export function LinkFacts({ link }: { link: Link }) {
  const utm = [link.source, link.medium, link.campaign, link.content, link.term].filter(Boolean).join(' / ')
  return (
    <dl className={classes.facts}>
      <Fact label="Destination">{link.destination}</Fact>
      <Fact label="Leads to">{link.finalUrl}</Fact>
      <Fact label="Link check">{link.check && <CheckFact check={link.check} />}</Fact>
      <Fact label="Fallback">{link.fallback}</Fact>
      <Fact label="UTM">{link.source && utm}</Fact>
      <Fact label="Redirect">{link.redirect}</Fact>
      <Fact label="Also under">
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
            {pixel.place !== 'link' && `, by its ${pixel.place}`}
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
    </dl>
  )
}

/** One line of the list; nothing where there is nothing to tell. */
function Fact({ label, children }: { label: string; children: ReactNode }) {
  const isEmpty = Array.isArray(children) ? children.length === 0 : !children
  return isEmpty ? null : (
    <>
      <dt>{label}</dt>
      <dd>{children}</dd>
    </>
  )
}
