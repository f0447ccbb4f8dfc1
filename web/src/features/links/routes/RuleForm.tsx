import {
  Button,
  Checkbox,
  Chip,
  Fieldset,
  Group,
  MultiSelect,
  NumberInput,
  SegmentedControl,
  Stack,
  TagsInput,
  Text,
  Textarea,
  TextInput,
} from '@mantine/core'
import { useState, type FormEvent } from 'react'
import { countries } from '../../../api/countries'
import { fieldErrors } from '../../../api/client'
import { endOf, openingOf } from '../../../parts/format/linkTime'
import { SpanFields } from '../../../parts/SpanFields'
import { Failed } from '../../../parts/States'
import { useWorkspaceZone } from '../../access/session'
import { devices } from './devices'
import { PagesFields } from './PagesFields'
import type { Rule } from './routes'
import { newPage } from './split'

type When = NonNullable<Rule['when']>

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

const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']

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
  const ask = (part: Partial<When>) => setWhen({ ...when, ...part })
  const isToldAtField = Object.keys(errors).some((field) => field.startsWith(fieldsAt))
  const submit = (event: FormEvent) => {
    event.preventDefault()
    // In Send it stands in a window of its own, and yet within the form of the post.
    event.stopPropagation()
    onSave({
      ...rule,
      name: name.trim() || null,
      when,
      closed: isClosed ? { text: closedText.trim() || null, page: rule?.closed?.page ?? null } : null,
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
          <Fieldset legend="For visitors" variant="unstyled">
            <Stack gap="sm">
              {at('when') && (
                <Text size="sm" c="red" role="alert">
                  {at('when')}
                </Text>
              )}
              <MultiSelect
                label="On"
                placeholder={when.devices?.length ? '' : 'any device'}
                autoFocus={!rule}
                data={devices}
                value={[...(when.devices ?? [])]}
                onChange={(chosen) => ask({ devices: chosen as When['devices'] })}
              />
              <MultiSelect
                label="In"
                placeholder={when.countries?.length ? '' : 'any country'}
                searchable
                data={countries}
                value={[...(when.countries ?? [])]}
                error={at('when.countries')}
                onChange={(chosen) => ask({ countries: chosen })}
              />
              <MultiSelect
                label="Not in"
                placeholder={when.notCountries?.length ? '' : 'no exception'}
                searchable
                data={countries}
                value={[...(when.notCountries ?? [])]}
                error={at('when.notCountries')}
                onChange={(chosen) => ask({ notCountries: chosen })}
              />
              <TagsInput
                label="Reading"
                description="Language tags, such as de or fr-CA"
                placeholder={when.languages?.length ? '' : 'any language'}
                value={[...(when.languages ?? [])]}
                error={at('when.languages')}
                onChange={(chosen) => ask({ languages: chosen })}
              />
              <div>
                <Text size="sm" fw={600} mb={4} id="rule-days">
                  On weekdays
                </Text>
                <Chip.Group
                  multiple
                  value={(when.weekdays ?? []).map(String)}
                  onChange={(chosen) => ask({ weekdays: chosen.map(Number) })}
                >
                  <Group gap={4} role="group" aria-labelledby="rule-days">
                    {weekdays.map((day, place) => (
                      <Chip key={day} size="xs" value={String(place + 1)}>
                        {day}
                      </Chip>
                    ))}
                  </Group>
                </Chip.Group>
              </div>
              <TextInput
                label="Between the hours"
                placeholder="08:00-18:00"
                value={when.hours ?? ''}
                error={at('when.hours')}
                onChange={(event) => ask({ hours: event.currentTarget.value || null })}
              />
              <SpanFields
                of="this rule"
                labels={['From', 'Until']}
                outside="Outside this time, the rules below decide."
                opensAt={when.from ?? ''}
                endsAt={when.until ?? ''}
                onOpensAt={(from) => ask({ from: from || null })}
                onEndsAt={(until) => ask({ until: until || null })}
                opensError={at('when.from')}
                endsError={at('when.until')}
              />
              <NumberInput
                label="Only the first so many people"
                placeholder="everyone"
                min={1}
                allowDecimal={false}
                value={when.first ?? ''}
                error={at('when.first')}
                onChange={(first) => ask({ first: typeof first === 'number' ? first : null })}
              />
              <TagsInput
                label="Coming from"
                description="Networks, as reports name them"
                placeholder={when.networks?.length ? '' : 'anywhere'}
                value={[...(when.networks ?? [])]}
                onChange={(chosen) => ask({ networks: chosen })}
              />
            </Stack>
          </Fieldset>
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
          <Textarea
            label="What they read"
            placeholder="This isn’t available here"
            maxLength={300}
            value={closedText}
            error={at('closed.text')}
            onChange={(event) => setClosedText(event.currentTarget.value)}
          />
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
            label="Name"
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
