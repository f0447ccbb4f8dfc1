import { Button, Group, Select, Text } from '@mantine/core'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router'
import { vocabulary } from '../../api/vocabulary'
import { Page } from '../../parts/Page'
import { Empty, Failed, Loading } from '../../parts/States'
import { AnswerSentence } from './compare/AnswerSentence'
import { ClickedOn } from './countries/ClickedOn'
import classes from './compare/Compare.module.css'
import { Lanes } from './compare/Lanes'
import { PostLifespan } from './posts/PostLifespan'
import { periods, type Asked, type PeriodName, type Question } from './question/question'
import { breakdownOf } from './reports'
import { WeekHours } from './course/WeekHours'

const offered = ['last-7', 'last-28', 'last-90', 'this-year'] as const satisfies PeriodName[]

/** A campaign: which of its posts and which of its channels brought the people, how long they live, where and when they were clicked. */
export function CampaignPage() {
  const { campaignKey } = useParams({ from: '/members/campaigns/$campaignKey' })
  const { period = 'last-90' } = useSearch({ from: '/members/campaigns/$campaignKey' })
  const navigate = useNavigate()
  const campaigns = useQuery(vocabulary.campaigns)
  const campaign = campaigns.data?.find((c) => c.key === campaignKey)
  const question: Question = { campaign: campaignKey, period }
  if (campaigns.isError)
    return (
      <Page title="Campaign">
        <Failed error={campaigns.error} onRetry={() => void campaigns.refetch()} />
      </Page>
    )
  if (!campaigns.data)
    return (
      <Page title="Campaign">
        <Loading />
      </Page>
    )
  if (!campaign)
    return (
      <Page title="Campaign">
        <Empty
          title={`There is no campaign “${campaignKey}”`}
          action={
            <Button
              renderRoot={(props) => (
                <Link to="/settings/$section" params={{ section: 'campaigns' }} {...props} />
              )}
            >
              See all campaigns
            </Button>
          }
        >
          It may have been merged with another campaign, or the address may be wrong.
        </Empty>
      </Page>
    )
  return (
    <Page
      title={campaign.name}
      beside={
        <Group gap={8}>
          <Button
            variant="default"
            renderRoot={(props) => <Link to="/links" search={{ campaign: campaignKey }} {...props} />}
          >
            Its links
          </Button>
          <Button
            variant="default"
            renderRoot={(props) => <Link to="/compare" search={question} {...props} />}
          >
            Open in Compare
          </Button>
          <Button component={Link} to="/send">
            Create a post
          </Button>
        </Group>
      }
    >
      <Select
        size="sm"
        w={180}
        aria-label="Period"
        value={period}
        data={offered.map((name) => ({ value: name, label: periods[name] }))}
        onChange={(name) =>
          void navigate({
            to: '/campaigns/$campaignKey',
            params: { campaignKey },
            search: { period: name ?? undefined },
            resetScroll: false,
          })
        }
      />
      <Ranked
        by="post"
        title="Posts"
        asked={{ by: 'post', campaign: [campaignKey], period, compare: 'none' }}
        question={question}
      />
      <Ranked
        by="channel"
        title="Channels"
        asked={{ by: 'channel', campaign: [campaignKey], period, compare: 'none' }}
        question={question}
      />
      <PostLifespan asked={{ by: 'channel', campaign: [campaignKey], period }} />
      <ClickedOn asked={{ campaign: [campaignKey], period }} question={question} />
      <WeekHours asked={{ campaign: [campaignKey], period }} />
    </Page>
  )
}

interface RankedProps {
  by: 'post' | 'channel'
  title: string
  asked: Asked
  question: Question
}

/** The campaign's posts or channels as lanes, below the answer of which led. */
function Ranked({ by, title, asked, question }: RankedProps) {
  const answer = useQuery({
    ...breakdownOf(asked),
    placeholderData: keepPreviousData,
  })
  return (
    <section aria-label={title}>
      <h2 className={classes.section}>{title}</h2>
      {answer.isError ? (
        <Failed error={answer.error} onRetry={() => void answer.refetch()} />
      ) : !answer.data ? (
        <Loading rows={4} />
      ) : answer.data.rows.length === 0 ? (
        <Text c="dimmed">No posts or clicks for this campaign in {periods[question.period!]}.</Text>
      ) : (
        <>
          <AnswerSentence answer={answer.data} />
          <Lanes answer={answer.data} question={{ ...question, by }} />
        </>
      )}
    </section>
  )
}
