import { Button, Checkbox, Group, SegmentedControl, Stack, Textarea, TextInput } from '@mantine/core'
import { useState, type FormEvent } from 'react'
import { fieldErrors } from '../../../api/client'
import { endOf, openingOf } from '../../../parts/format/linkTime'
import { Failed } from '../../../parts/States'
import { useWorkspaceZone } from '../../access/session'
import { ConditionFields } from './ConditionFields'
import { PagesFields } from './PagesFields'
import type { Rule, When } from './routes'
import { newPage } from './split'

interface Props {
  /** Undefined for a new one. */
  rule?: Rule
  /** Where the server’s errors about it stand. */
  fieldsAt: string
  /** Whether it is what everyone else gets, without conditions. */
  isForEveryone: boolean
  isSaving: boolean
  error: Error | null
  onSave: (rule: Rule) => void
  onCancel: () => void
}

/** Adds or changes a rule: for whom it holds, and where it leads them. */
export function RuleForm({ rule, fieldsAt, isForEveryone, isSaving, error, onSave, onCancel }: Props) {
  const timeZone = useWorkspaceZone()
  const [name, setName] = useState(rule?.name ?? '')
  const [when, setWhen] = useState<When>(() => ({
    ...rule?.when,
    from: openingOf(rule?.when?.from ?? null, timeZone),
    until: endOf(rule?.when?.until ?? null, timeZone),
  }))
  const [isClosed, setIsClosed] = useState(rule?.closed != null)
  const [closedText, setClosedText] = useState(rule?.closed?.text ?? '')
  const [closedPage, setClosedPage] = useState(rule?.closed?.page ?? '')
  const [pages, setPages] = useState(() =>
    rule?.to && rule.to.length > 0
      ? rule.to.map((page) => ({
          destination: page.destination ?? '',
          name: page.name ?? '',
          weight: page.weight ?? 100,
          isLocked: false,
        }))
      : isForEveryone
        ? [newPage(), newPage()].map((page) => ({ ...page, weight: 50 }))
        : [newPage()],
  )
  const [handsOver, setHandsOver] = useState(rule?.handsOverWhileDead ?? true)
  const errors = error ? fieldErrors(error) : {}
  const at = (field: string) => errors[`${fieldsAt}.${field}`]
  const isToldAtField = Object.keys(errors).some((field) => field.startsWith(fieldsAt))
  const submit = (event: FormEvent) => {
    event.preventDefault()
    // In Send it stands in a window of its own, and yet within the form of the post.
    event.stopPropagation()
    onSave({
      ...rule,
      name: name.trim() || null,
      when,
      closed: isClosed ? { text: closedText.trim() || null, page: closedPage.trim() || null } : null,
      to: isClosed
        ? null
        : pages.map(({ destination, name: called, weight }) => ({
            destination,
            name: called.trim() || null,
            weight,
          })),
      handsOverWhileDead: handsOver,
    } as Rule)
  }
  return (
    <form onSubmit={submit} aria-label={isForEveryone ? 'Pages for everyone else' : 'Rule'}>
      <Stack gap="sm" my="sm">
        {!isForEveryone && (
          <ConditionFields
            when={when}
            isNew={!rule}
            errorOf={(field) => at(field ? `when.${field}` : 'when')}
            onChange={(part) => setWhen({ ...when, ...part })}
          />
        )}
        {!isForEveryone && (
          <SegmentedControl
            aria-label="What they get"
            data={[
              { value: 'pages', label: 'A page, or several' },
              { value: 'closed', label: 'Closed' },
            ]}
            value={isClosed ? 'closed' : 'pages'}
            onChange={(chosen) => setIsClosed(chosen === 'closed')}
          />
        )}
        {isClosed ? (
          <>
            <Textarea
              label="What they read"
              placeholder="This isn’t available here"
              maxLength={300}
              value={closedText}
              error={at('closed.text')}
              onChange={(event) => setClosedText(event.currentTarget.value)}
            />
            <TextInput
              label="Or the page they’re led to instead"
              placeholder="https://…"
              value={closedPage}
              error={at('closed.page')}
              onChange={(event) => setClosedPage(event.currentTarget.value)}
            />
          </>
        ) : (
          <>
            <PagesFields
              pages={pages}
              error={at('to')}
              errorOf={(place) => at(`to[${place}].destination`)}
              mayBeNone={isForEveryone}
              onChange={setPages}
            />
            {pages.length > 1 && (
              <Checkbox
                label="While a page is broken, the others get its visitors"
                checked={handsOver}
                onChange={(event) => setHandsOver(event.currentTarget.checked)}
              />
            )}
          </>
        )}
        {!isForEveryone && (
          <TextInput
            label="Name of this rule"
            placeholder="the conditions in words"
            value={name}
            error={at('name')}
            onChange={(event) => setName(event.currentTarget.value)}
          />
        )}
        {error && !isToldAtField && <Failed error={error} />}
        <Group gap={8}>
          <Button type="submit" loading={isSaving}>
            Save
          </Button>
          <Button variant="default" onClick={onCancel}>
            Cancel
          </Button>
        </Group>
      </Stack>
    </form>
  )
}
