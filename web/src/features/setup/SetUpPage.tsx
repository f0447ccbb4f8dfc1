import { Tabs } from '@mantine/core'
import { useNavigate, useSearch } from '@tanstack/react-router'
import { Page } from '../../parts/Page'
import { TokensSection } from '../access/TokensSection'
import { MembersSection } from '../access/MembersSection'
import { ArchiveSection } from '../archives/ArchiveSection'
import { DomainsSection } from '../addresses/DomainsSection'
import { TagsSection } from '../links/TagsSection'
import { VocabularySection } from '../addresses/VocabularySection'
import { LinkCheckSection } from '../checking/LinkCheckSection'
import { ReferrersSection } from '../clicks/ReferrersSection'
import { CampaignsSection } from '../posts/CampaignsSection'
import { ChannelsSection } from '../posts/ChannelsSection'
import { AdNetworksSection } from '../retargeting/AdNetworksSection'
import { HandoffSection } from '../retargeting/HandoffSection'
import { SendThisPage } from './SendThisPage'

/** What is agreed once, so that nobody types it again. */
export function SetUpPage() {
  const { part } = useSearch({ from: '/members/set-up' })
  const navigate = useNavigate()
  return (
    <Page title="Set-up">
      <Tabs
        value={part ?? 'channels'}
        onChange={(value) =>
          void navigate({ to: '/set-up', search: { part: value ?? undefined }, replace: true })
        }
        keepMounted={false}
        styles={{ tab: { paddingInline: 10 } }}
      >
        <Tabs.List mb="md">
          <Tabs.Tab value="channels">Channels</Tabs.Tab>
          <Tabs.Tab value="campaigns">Campaigns</Tabs.Tab>
          <Tabs.Tab value="vocabulary">Vocabulary</Tabs.Tab>
          <Tabs.Tab value="tags">Tags and folders</Tabs.Tab>
          <Tabs.Tab value="domains">Short domains</Tabs.Tab>
          <Tabs.Tab value="link-check">Link check</Tabs.Tab>
          <Tabs.Tab value="referrers">Where clicks come from</Tabs.Tab>
          <Tabs.Tab value="retargeting">Retargeting</Tabs.Tab>
          <Tabs.Tab value="members">Members</Tabs.Tab>
          <Tabs.Tab value="anywhere">From any page</Tabs.Tab>
          <Tabs.Tab value="tokens">API and archive</Tabs.Tab>
        </Tabs.List>
        <Tabs.Panel value="channels">
          <ChannelsSection />
        </Tabs.Panel>
        <Tabs.Panel value="campaigns">
          <CampaignsSection />
        </Tabs.Panel>
        <Tabs.Panel value="vocabulary">
          <VocabularySection />
        </Tabs.Panel>
        <Tabs.Panel value="tags">
          <TagsSection />
        </Tabs.Panel>
        <Tabs.Panel value="domains">
          <DomainsSection />
        </Tabs.Panel>
        <Tabs.Panel value="link-check">
          <LinkCheckSection />
        </Tabs.Panel>
        <Tabs.Panel value="referrers">
          <ReferrersSection />
        </Tabs.Panel>
        <Tabs.Panel value="retargeting">
          <HandoffSection />
          <AdNetworksSection />
        </Tabs.Panel>
        <Tabs.Panel value="members">
          <MembersSection />
        </Tabs.Panel>
        <Tabs.Panel value="anywhere">
          <SendThisPage />
        </Tabs.Panel>
        <Tabs.Panel value="tokens">
          <TokensSection />
          <ArchiveSection />
        </Tabs.Panel>
      </Tabs>
    </Page>
  )
}
