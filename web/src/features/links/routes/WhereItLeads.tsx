import { ActionIcon, Badge, Button, Group, Menu, Text } from '@mantine/core'
import { IconDots } from '@tabler/icons-react'
import { useQuery } from '@tanstack/react-query'
import { useState, type ComponentProps } from 'react'
import { addressOf } from '../../../parts/format/addressText'
import { counted } from '../../../parts/format/numbers'
import { later } from '../../../parts/later'
import { Failed, Loading } from '../../../parts/States'
import type { Link } from '../links'
import type { RuleForm as Form } from './RuleForm'
import { routesQuery, useSavedRoute, type RoutedPage, type Route, type Rule } from './routes'
import { moved } from './split'
import classes from './WhereItLeads.module.css'

/** Fetched when somebody changes rules. */
const RuleForm = later<ComponentProps<typeof Form>>('rule form', () =>
  import('./RuleForm').then((m) => m.RuleForm),
)

/** Which rule is open: a place, a new one, or what everyone else gets. */
type Opened = number | 'new' | 'otherwise'

/** Where a link leads whom, drawn as a fork: a branch for each rule, and the last for everyone else. */
export function WhereItLeads({ link, mayChange }: { link: Link; mayChange: boolean }) {
  const route = useQuery(routesQuery(link))
  const save = useSavedRoute(link)
  const [opened, setOpened] = useState<Opened>()
  if (route.isError) return <Failed error={route.error} onRetry={() => void route.refetch()} />
  if (!route.data) return <Loading rows={2} />
  const { rules = [], otherwise } = route.data as Route & { rules: Rule[] }
  const put = (part: Partial<Route>) => save.mutateAsync({ ...route.data, ...part })
  const close = () => {
    save.reset()
    setOpened(undefined)
  }
  const form = (
    place: Opened,
    rule: Rule | undefined,
    fieldsAt: string,
    onSave: (rule: Rule) => Partial<Route>,
  ) =>
    opened === place && (
      <RuleForm
        rule={rule}
        fieldsAt={fieldsAt}
        isForEveryone={place === 'otherwise'}
        isSaving={save.isPending}
        error={save.error}
        onSave={(changed) => void put(onSave(changed)).then(close, () => undefined)}
        onCancel={close}
      />
    )
  return (
    <section aria-label="Where it leads">
      <ol className={classes.fork}>
        {rules.map((rule, place) => (
          <li key={rule.number} className={rule.off ? `${classes.branch} ${classes.off}` : classes.branch}>
            <div className={classes.head}>
              <span className={classes.words}>{rule.name ?? rule.words}</span>
              {rule.off && (
                <Badge variant="default" size="sm">
                  off
                </Badge>
              )}
              {mayChange && (
                <RuleMenu
                  name={rule.name ?? rule.words ?? ''}
                  rule={rule}
                  place={place}
                  count={rules.length}
                  isBusy={save.isPending}
                  onEdit={() => setOpened(place)}
                  onRules={(change) => void put({ rules: change(rules) }).catch(() => undefined)}
                />
              )}
            </div>
            {rule.name && (
              <Text size="sm" c="dimmed">
                {rule.words}
              </Text>
            )}
            {rule.when?.first != null && (
              <Text size="sm" c="dimmed">
                {counted(rule.people ?? 0, 'person', 'people')} so far
              </Text>
            )}
            <Pages pages={rule.to ?? []} closed={rule.closed} />
            {form(place, rule, `rules[${place}]`, (changed) => ({
              rules: rules.map((r, at) => (at === place ? changed : r)),
            }))}
          </li>
        ))}
        {opened === 'new' && (
          <li className={classes.branch}>
            {form('new', undefined, `rules[${rules.length}]`, (rule) => ({ rules: [...rules, rule] }))}
          </li>
        )}
        {(rules.length > 0 || otherwise || opened === 'new' || opened === 'otherwise') && (
          <li className={classes.branch}>
            <div className={classes.head}>
              <span className={classes.words}>Everyone else</span>
              {mayChange && otherwise && (
                <Button
                  className={classes.actions}
                  size="compact-sm"
                  variant="subtle"
                  onClick={() => setOpened('otherwise')}
                >
                  Edit
                </Button>
              )}
            </div>
            <Pages pages={otherwise?.to ?? [{ destination: link.destination }]} />
            {form('otherwise', otherwise ? ({ ...otherwise } as Rule) : undefined, 'otherwise', (rule) => ({
              otherwise:
                rule.to && rule.to.length > 0
                  ? { to: rule.to, handsOverWhileDead: rule.handsOverWhileDead }
                  : null,
            }))}
          </li>
        )}
      </ol>
      {save.isError && opened === undefined && <Failed error={save.error} />}
      {mayChange && opened === undefined && (
        <Group gap={8} mb="md">
          <Button size="compact-sm" variant="default" onClick={() => setOpened('new')}>
            Add a rule
          </Button>
          {!otherwise && (
            <Button size="compact-sm" variant="default" onClick={() => setOpened('otherwise')}>
              Split over several pages
            </Button>
          )}
        </Group>
      )}
    </section>
  )
}

function Pages({ pages, closed }: { pages: readonly RoutedPage[]; closed?: Rule['closed'] }) {
  if (closed)
    return <Text size="sm">{closed.page ? `Closed, leads to ${addressOf(closed.page)}` : 'Closed'}</Text>
  return pages.map((page) => (
    <div key={page.destination} className={classes.page}>
      {pages.length > 1 && <span className={classes.share}>{page.weight}%</span>}
      <span>
        {page.name && <b>{page.name} </b>}
        {addressOf(page.destination ?? '')}
      </span>
    </div>
  ))
}

interface MenuProps {
  name: string
  rule: Rule
  place: number
  count: number
  isBusy: boolean
  onEdit: () => void
  onRules: (change: (rules: Rule[]) => Rule[]) => void
}

function RuleMenu({ name, rule, place, count, isBusy, onEdit, onRules }: MenuProps) {
  const at = (change: (rule: Rule) => Rule) => (rules: Rule[]) =>
    rules.map((r, other) => (other === place ? change(r) : r))
  return (
    <Menu position="bottom-end" withinPortal={false}>
      <Menu.Target>
        <ActionIcon
          className={classes.actions}
          variant="subtle"
          color="gray"
          loading={isBusy}
          aria-label={`Actions for rule ${place + 1}, ${name}`}
        >
          <IconDots size={18} />
        </ActionIcon>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Item onClick={onEdit}>Edit</Menu.Item>
        <Menu.Item disabled={place === 0} onClick={() => onRules((rules) => moved(rules, place, place - 1))}>
          Move up
        </Menu.Item>
        <Menu.Item
          disabled={place === count - 1}
          onClick={() => onRules((rules) => moved(rules, place, place + 1))}
        >
          Move down
        </Menu.Item>
        <Menu.Item onClick={() => onRules(at((r) => ({ ...r, off: !r.off })))}>
          {rule.off ? 'Switch on' : 'Switch off'}
        </Menu.Item>
        <Menu.Item
          color="red"
          onClick={() => onRules((rules) => rules.filter((_, other) => other !== place))}
        >
          Remove
        </Menu.Item>
      </Menu.Dropdown>
    </Menu>
  )
}
