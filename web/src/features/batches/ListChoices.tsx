import { Select, Stack } from '@mantine/core'
import type { Domain } from '../../api/vocabulary'
import { redirects } from '../../parts/format/redirects'
import type { Choices, ListField, Preview } from './batches'

interface Props {
  choices: Choices
  columns: ReadonlyArray<ListField | null>
  domains: Domain[]
  preview: Preview | undefined
  onChange: (choices: Choices) => void
}

const taken = [
  { value: 'refuse', label: 'Report it so I can correct the line' },
  { value: 'skip', label: 'Skip the line' },
  { value: 'rename', label: 'Use another slug' },
  { value: 'take-over', label: 'Update the existing link' },
]

const groups = [
  { value: 'folders', label: 'Folders' },
  { value: 'tags', label: 'Tags' },
]

const dayOrders = [
  { value: 'day-first', label: 'the 3rd of April' },
  { value: 'month-first', label: 'the 4th of March' },
]

/** What a list of another program can't say itself; only what this list leaves open is asked. */
export function ListChoices({ choices, columns, domains, preview, onChange }: Props) {
  const change = (part: Partial<Choices>) => onChange({ ...choices, ...part })
  const says = (...fields: ListField[]) => fields.some((field) => columns.includes(field))
  const asked = [
    says('slug', 'short-address') && (
      <Select
        key="taken"
        label="If a slug is taken"
        allowDeselect={false}
        data={taken}
        value={choices.taken ?? 'refuse'}
        onChange={(value) => change({ taken: value as Choices['taken'] })}
      />
    ),
    says('group') && (
      <Select
        key="groups"
        label="Groups become"
        allowDeselect={false}
        data={groups}
        value={choices.groups ?? 'folders'}
        onChange={(value) => change({ groups: value as Choices['groups'] })}
      />
    ),
    says('created-at', 'published-on', 'opens-at', 'ends-at') && preview?.isDayOrderOpen && (
      <Select
        key="dayOrder"
        label="3/4/2026 means"
        placeholder="choose one"
        data={dayOrders}
        value={choices.dayOrder ?? null}
        onChange={(value) => change({ dayOrder: value as Choices['dayOrder'] })}
      />
    ),
    ...(preview?.openRedirects ?? []).map((word) => (
      <Select
        key={`redirect ${word}`}
        label={`Redirect “${word}” becomes`}
        placeholder="choose one"
        clearable
        data={redirects}
        value={choices.redirects?.[word] ? String(choices.redirects[word]) : null}
        onChange={(value) =>
          change({ redirects: withEntry(choices.redirects, word, value ? Number(value) : undefined) })
        }
      />
    )),
    ...(preview?.openDomains ?? []).map((host) => (
      <Select
        key={`domain ${host}`}
        label={`Move links from ${host} to`}
        placeholder="choose one"
        clearable
        data={domains.map((d) => ({ value: d.name, label: d.shown }))}
        value={choices.domains?.[host] ?? null}
        onChange={(value) => change({ domains: withEntry(choices.domains, host, value ?? undefined) })}
      />
    )),
  ].filter(Boolean)
  if (asked.length === 0) return null
  return (
    <section aria-labelledby="what-the-list-leaves-open">
      <h2 id="what-the-list-leaves-open">Not clear from the list</h2>
      <Stack gap={10}>{asked}</Stack>
    </section>
  )
}

function withEntry<T>(entries: Record<string, T> | null | undefined, key: string, value: T | undefined) {
  const others = Object.fromEntries(Object.entries(entries ?? {}).filter(([name]) => name !== key))
  return value === undefined ? others : { ...others, [key]: value }
}
