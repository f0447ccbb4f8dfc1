import { Button, Menu, Popover, ScrollArea, SimpleGrid, Stack, Text, UnstyledButton } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { useState, type ReactNode } from 'react'
import { vocabulary } from '../../../api/vocabulary'
import { later } from '../../../parts/later'
import { day } from '../../../parts/format/numbers'
import classes from '../compare/Compare.module.css'
import {
  dimensions,
  filters,
  hasPosts,
  isOfPages,
  isById,
  periods,
  usualPeriod,
  type Breakdown,
  type Dimension,
  type Filter,
  type PeriodName,
  type Question,
} from './question'

const RangePicker = later('RangePicker', () => import('./RangePicker').then((m) => m.RangePicker), null)

interface Props {
  question: Question
  labels: Breakdown | undefined
}

/** The filter as a sentence; each choice in it is a word that opens. */
export function QuestionSentence({ question, labels }: Props) {
  const navigate = useNavigate()
  const campaigns = useQuery(vocabulary.campaigns)
  const ask = (part: Partial<Question>) =>
    void navigate({ to: '/compare', search: (old) => ({ ...(old as Question), ...part }) })
  const by = question.by ?? 'channel'
  const campaign = campaigns.data?.find((c) => c.key === question.campaign)
  const others = filters.filter((f) => f !== 'campaign' && question[f] !== undefined)

  return (
    <h1 className={classes.question}>
      Which{' '}
      <Choice label={dimensions[by]} name="Compare by">
        {Object.entries(dimensions).map(([key, word]) => (
          <Menu.Item
            key={key}
            onClick={() =>
              ask({
                by: key as Dimension,
                across: undefined,
                per: hasPosts(key as Dimension) ? question.per : undefined,
              })
            }
          >
            {word}
          </Menu.Item>
        ))}
      </Choice>{' '}
      {isOfPages(by) ? 'got' : 'brought'} the most{' '}
      {hasPosts(by) ? (
        <Choice label={question.per ? 'clicks per post' : 'clicks'} name="Count">
          <Menu.Item onClick={() => ask({ per: undefined, sort: undefined })}>clicks</Menu.Item>
          <Menu.Item onClick={() => ask({ per: 'post', sort: undefined })}>clicks per post</Menu.Item>
        </Choice>
      ) : (
        'clicks'
      )}{' '}
      for{' '}
      <Choice
        label={
          question.campaign === undefined
            ? 'all campaigns'
            : (campaign?.name ?? (question.campaign || 'no campaign'))
        }
        name="Campaign"
      >
        <Menu.Item onClick={() => ask({ campaign: undefined })}>all campaigns</Menu.Item>
        <Menu.Divider />
        <ScrollArea.Autosize mah={320}>
          {campaigns.data?.map((c) => (
            <Menu.Item key={c.key} onClick={() => ask({ campaign: c.key })}>
              {c.name}{' '}
              <Text span size="sm" c="dimmed">
                {c.key}
              </Text>
            </Menu.Item>
          ))}
        </ScrollArea.Autosize>
      </Choice>
      {others.map((filter) => (
        <Narrowed
          key={filter}
          filter={filter}
          label={
            labels?.narrowed.find((n) => n.filter === filter && n.key === question[filter])?.label ??
            (isById(filter) ? `one ${filter}` : question[filter]!)
          }
          onDrop={() => ask({ [filter]: undefined })}
        />
      ))}{' '}
      in <PeriodChoice question={question} onAsk={ask} />, against{' '}
      <Choice
        label={question.compare === 'none' ? 'nothing' : beforeLabel(question, labels)}
        name="Compare with"
      >
        <Menu.Item onClick={() => ask({ compare: undefined })}>the period before</Menu.Item>
        <Menu.Item onClick={() => ask({ compare: 'year' })}>the same days of last year</Menu.Item>
        <Menu.Item onClick={() => ask({ compare: 'none' })}>nothing</Menu.Item>
      </Choice>
      ?
    </h1>
  )
}

/** Words where the named period has some, else the days themselves. */
function beforeLabel(question: Question, labels: Breakdown | undefined) {
  const last = /^last-(\d+)$/.exec(question.from ? '' : (question.period ?? usualPeriod))
  if (question.compare === 'year') return 'the same days of last year'
  if (last) return `the ${last[1]} days before`
  if (!labels?.before) return 'the period before'
  const { from, to } = labels.before
  return from === to ? day(from) : `${day(from)} to ${day(to)}`
}

function Choice({ label, name, children }: { label: string; name: string; children: ReactNode }) {
  return (
    <Menu position="bottom-start" width={260}>
      <Menu.Target>
        <UnstyledButton component="button" className={classes.choice} aria-label={`${name}: ${label}`}>
          {label}
        </UnstyledButton>
      </Menu.Target>
      <Menu.Dropdown mah={420} style={{ overflowY: 'auto' }}>
        {children}
      </Menu.Dropdown>
    </Menu>
  )
}

/** A narrowing that came from opening a figure; choosing it takes it away again. */
function Narrowed({ filter, label, onDrop }: { filter: Filter; label: string; onDrop: () => void }) {
  return (
    <>
      {' '}
      {filter === 'channel' ? 'on' : 'with'}{' '}
      <UnstyledButton
        component="button"
        className={classes.choice}
        onClick={onDrop}
        title="Remove"
        aria-label={`${dimensions[filter]}: ${label}. Remove this filter`}
      >
        {filter === 'channel' ? label : `${dimensions[filter]} ${label}`} ×
      </UnstyledButton>
    </>
  )
}

function PeriodChoice({ question, onAsk }: { question: Question; onAsk: (part: Partial<Question>) => void }) {
  const [isOpen, setIsOpen] = useState(false)
  const label =
    question.from && question.to
      ? `${day(question.from)} to ${day(question.to)}`
      : periods[question.period ?? usualPeriod]
  return (
    <Popover opened={isOpen} onChange={setIsOpen} position="bottom-start" trapFocus withRoles={false}>
      <Popover.Target>
        <UnstyledButton
          component="button"
          className={classes.choice}
          aria-expanded={isOpen}
          aria-label={`Period: ${label}`}
          onClick={() => setIsOpen((open) => !open)}
        >
          {label}
        </UnstyledButton>
      </Popover.Target>
      <Popover.Dropdown>
        <Stack gap="xs">
          <SimpleGrid cols={2} spacing={0} verticalSpacing={0}>
            {Object.entries(periods).map(([name, words]) => (
              <Button
                key={name}
                variant="subtle"
                justify="start"
                size="compact-md"
                onClick={() => {
                  onAsk({ period: name as PeriodName, from: undefined, to: undefined })
                  setIsOpen(false)
                }}
              >
                {words}
              </Button>
            ))}
          </SimpleGrid>
          <RangePicker
            from={question.from}
            to={question.to}
            onPick={(from, to) => {
              onAsk({ from, to, period: undefined })
              setIsOpen(false)
            }}
          />
        </Stack>
      </Popover.Dropdown>
    </Popover>
  )
}
