import { NavLink, Select } from '@mantine/core'
import { Link, useNavigate, useParams } from '@tanstack/react-router'
import type { ComponentType } from 'react'
import { NotFound } from '../../parts/NotFound'
import { Page } from '../../parts/Page'
import { TokensSection } from '../access/TokensSection'
import { DomainsSection } from '../addresses/DomainsSection'
import { VocabularySection } from '../addresses/VocabularySection'
import { ArchiveSection } from '../archives/ArchiveSection'
import { AuditSection } from '../audit/AuditSection'
import { BackgroundSection } from '../background/BackgroundSection'
import { LinkCheckSection } from '../checking/LinkCheckSection'
import { CountingSection } from '../clicks/CountingSection'
import { ReferrersSection } from '../clicks/ReferrersSection'
import { SavedRoutesSection } from '../links/routes/SavedRoutesSection'
import { TagsSection } from '../links/TagsSection'
import { MembersSection } from '../people/MembersSection'
import { CampaignsSection } from '../posts/CampaignsSection'
import { ChannelsSection } from '../posts/channels/ChannelsSection'
import { RecipesSection } from '../posts/RecipesSection'
import { AdNetworksSection } from '../retargeting/AdNetworksSection'
import { HandoffSection } from '../retargeting/HandoffSection'
import { WebhooksSection } from '../webhooks/WebhooksSection'
import { NewLinksSection } from '../workspace/NewLinksSection'
import { WorkspaceSection } from '../workspace/WorkspaceSection'
import { groups, sections, type SectionId } from './sections'
import { SendThisPage } from './SendThisPage'
import classes from './Settings.module.css'

const contents: Record<SectionId, ComponentType> = {
  workspace: WorkspaceSection,
  channels: ChannelsSection,
  campaigns: CampaignsSection,
  recipes: RecipesSection,
  routes: SavedRoutesSection,
  utm: VocabularySection,
  tags: TagsSection,
  'new-links': NewLinksSection,
  domains: DomainsSection,
  'link-check': LinkCheckSection,
  handoff: HandoffSection,
  'ad-networks': AdNetworksSection,
  members: MembersSection,
  audit: AuditSection,
  counting: CountingSection,
  referrers: ReferrersSection,
  'any-page': SendThisPage,
  tokens: TokensSection,
  webhooks: WebhooksSection,
  background: BackgroundSection,
  archive: ArchiveSection,
}

/** One section of settings, beside the list of all of them. */
export function SettingsPage() {
  const { section: id } = useParams({ from: '/members/settings/$section' })
  const section = sections.find((s) => s.id === id)
  if (!section) return <NotFound />
  const Content = contents[section.id]
  return (
    <Page title={section.label}>
      <div className={classes.columns}>
        <AllSections current={section.id} />
        <div className={classes.section}>
          <Content />
        </div>
      </div>
    </Page>
  )
}

/** The sections as a list, or, where there is no room for one, as a field. */
function AllSections({ current }: { current: SectionId }) {
  const navigate = useNavigate()
  return (
    <>
      <nav aria-label="Settings" className={classes.list}>
        {groups.map((group) => (
          <div key={group.label} role="group" aria-label={group.label}>
            <div className={classes.group} aria-hidden>
              {group.label}
            </div>
            {group.sections.map((section) => (
              <NavLink
                key={section.id}
                label={section.label}
                active={section.id === current}
                aria-current={section.id === current ? 'page' : undefined}
                className={classes.entry}
                renderRoot={(props) => (
                  <Link to="/settings/$section" params={{ section: section.id }} {...props} />
                )}
              />
            ))}
          </div>
        ))}
      </nav>
      <Select
        className={classes.field}
        aria-label="Section"
        allowDeselect={false}
        value={current}
        data={groups.map((group) => ({
          group: group.label,
          items: group.sections.map((section) => ({ value: section.id, label: section.label })),
        }))}
        onChange={(id) => id && void navigate({ to: '/settings/$section', params: { section: id } })}
      />
    </>
  )
}
