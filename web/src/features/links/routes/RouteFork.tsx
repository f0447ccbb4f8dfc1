import { Badge, Button, Group, NativeSelect, Text } from '@mantine/core'
import { useState, type ComponentProps, type CSSProperties, type ReactNode } from 'react'
import { counted } from '../../../parts/format/numbers'
import { later } from '../../../parts/later'
import { Sortable, useSorted } from '../../../parts/Sortable'
import { Failed } from '../../../parts/States'
import { BranchPages } from './BranchPages'
import type { RuleForm as Form } from './RuleForm'
import { RuleMenu } from './RuleMenu'
import type { Route, RouteFigures, Rule } from './routes'
import classes from './WhereItLeads.module.css'
import { linesOf } from './widths'

/** Fetched when somebody changes rules. */
const RuleForm = later<ComponentProps<typeof Form>>('rule form', () =>
  import('./RuleForm').then((m) => m.RuleForm),
)

/** Which rule is open: a place, a new one, or what everyone else gets. */
export type Opened = number | 'new' | 'otherwise'

interface Props {
  route: Route
  /** Where everyone else goes unless the route says; left out where each link has its own. */
  destination?: string
  figures?: RouteFigures
  mayChange: boolean
  /** What is open at first. */
  opens?: Opened
  isSaving: boolean
  error: Error | null
  /** Saves the whole route; fails with what is wrong with it. */
  onSave: (route: Route) => Promise<unknown>
  /** Forgets what was wrong. */
  onReset: () => void
}

/** A route drawn as a fork: a branch for each rule, and the last for everyone else; each is changed in its own place. */
export function RouteFork({
  route,
  destination,
  figures,
  mayChange,
  opens,
  isSaving,
  error,
  onSave,
  onReset,
}: Props) {
  const [opened, setOpened] = useState<Opened | undefined>(opens)
  const { rules = [], otherwise } = route as Route & { rules: Rule[] }
  const hasSplit = [otherwise, ...rules].some((outcome) => (outcome?.to?.length ?? 0) > 1)
  const ends = otherwise?.to ?? (destination ? [{ destination }] : undefined)
  const put = (part: Partial<Route>) => void onSave({ ...route, ...part }).catch(() => undefined)
  const close = () => {
    onReset()
    setOpened(undefined)
  }
  const form = (
    place: Opened,
    rule: Rule | undefined,
    fieldsAt: string,
    changes: (rule: Rule) => Partial<Route>,
  ) =>
    opened === place && (
      <RuleForm
        rule={rule}
        fieldsAt={fieldsAt}
        isForEveryone={place === 'otherwise'}
        isSaving={isSaving}
        error={error}
        onSave={(changed) => void onSave({ ...route, ...changes(changed) }).then(close, () => undefined)}
        onCancel={close}
      />
    )
  const figuresOf = (number: number | null | undefined) =>
    figures?.branches.find((branch) => branch.rule === number)
  const lines = linesOf(
    figures ? [...rules.map((rule) => figuresOf(rule.number)?.people), figuresOf(0)?.people] : [],
  )
  const keyOf = (rule: Rule, place: number) => rule.number ?? -1 - place
  const byKey = new Map(rules.map((rule, place) => [keyOf(rule, place), rule]))
  const nameOf = (rule: Rule | undefined) => rule?.name ?? rule?.words ?? ''
  // Nothing is announced where nothing can be moved.
  const mayMove = mayChange && rules.length > 1
  const fork = (
    <ol className={classes.fork}>
      {rules.map((rule, place) => (
        <Branch
          key={keyOf(rule, place)}
          id={keyOf(rule, place)}
          rule={rule}
          place={place}
          lines={lines[place]}
          mayMove={mayMove}
          actions={
            mayChange && (
              <RuleMenu
                name={nameOf(rule)}
                rule={rule}
                place={place}
                count={rules.length}
                isBusy={isSaving}
                onEdit={() => setOpened(place)}
                onRules={(change) => put({ rules: change(rules) })}
              />
            )
          }
        >
          <BranchPages
            pages={rule.to ?? []}
            closed={rule.closed}
            figures={rule.off ? undefined : figuresOf(rule.number)}
          />
          {form(place, rule, `rules[${place}]`, (changed) => ({
            rules: rules.map((r, at) => (at === place ? changed : r)),
          }))}
        </Branch>
      ))}
      {opened === 'new' && (
        <li className={classes.branch}>
          {form('new', undefined, `rules[${rules.length}]`, (rule) => ({ rules: [...rules, rule] }))}
        </li>
      )}
      {(rules.length > 0 || otherwise || opened === 'new' || opened === 'otherwise') && (
        <li className={classes.branch} style={lines[rules.length]}>
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
          {otherwise && (
            <Text size="sm" c="dimmed">
              a split, the same for each visitor {route.remember === '30-days' ? 'for 30 days' : 'all day'}
            </Text>
          )}
          {ends ? (
            <BranchPages pages={ends} figures={figuresOf(0)} />
          ) : (
            <Text size="sm">each link’s own destination</Text>
          )}
          {form('otherwise', otherwise ? ({ ...otherwise } as Rule) : undefined, 'otherwise', (rule) => ({
            otherwise:
              rule.to && rule.to.length > 0
                ? { to: rule.to, handsOverWhileDead: rule.handsOverWhileDead }
                : null,
          }))}
        </li>
      )}
    </ol>
  )
  return (
    <>
      {mayMove ? (
        <Sortable
          ids={[...byKey.keys()]}
          nameOf={(id) => nameOf(byKey.get(id))}
          onOrder={(ids) => put({ rules: ids.map((id) => byKey.get(id)!) })}
        >
          {fork}
        </Sortable>
      ) : (
        fork
      )}
      {error && opened === undefined && <Failed error={error} />}
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
      {mayChange && opened === undefined && hasSplit && (
        <NativeSelect
          label="Visitors of a split keep their page"
          size="sm"
          mb="md"
          disabled={isSaving}
          data={[
            { value: 'day', label: 'for the day, without a cookie' },
            { value: '30-days', label: 'for 30 days, with a cookie on the short domain' },
          ]}
          value={route.remember}
          onChange={(event) => put({ remember: event.currentTarget.value as Route['remember'] })}
        />
      )}
    </>
  )
}

interface BranchProps {
  id: number
  rule: Rule
  place: number
  lines?: CSSProperties
  mayMove: boolean
  actions: ReactNode
  children: ReactNode
}

function Branch({ id, rule, place, lines, mayMove, actions, children }: BranchProps) {
  const { setNode, style, handle } = useSorted(
    id,
    `rule ${place + 1}, ${rule.name ?? rule.words ?? ''}`,
    !mayMove,
  )
  return (
    <li
      ref={setNode}
      style={{ ...lines, ...style }}
      className={rule.off ? `${classes.branch} ${classes.off}` : classes.branch}
    >
      <div className={classes.head}>
        <span className={classes.words}>{rule.name ?? rule.words}</span>
        {rule.off && (
          <Badge variant="default" size="sm">
            off
          </Badge>
        )}
        <Group className={classes.actions} gap={0} wrap="nowrap">
          {mayMove && handle}
          {actions}
        </Group>
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
      {children}
    </li>
  )
}
