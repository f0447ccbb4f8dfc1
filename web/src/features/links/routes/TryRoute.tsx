import { Button, Group, NativeSelect, Select, Stack, Text, TextInput, Textarea } from '@mantine/core'
import { useState, type FormEvent } from 'react'
import { fieldErrors } from '../../../api/client'
import { countries } from '../../../api/countries'
import { AddressText } from '../../../parts/AddressText'
import { Failed } from '../../../parts/States'
import type { Link } from '../links'
import { BranchPages } from './BranchPages'
import { devices } from './devices'
import { useTriedRoute, type Route, type Trial } from './routes'
import classes from './WhereItLeads.module.css'

/** Tries a link’s rules on a made-up visitor: which decides, and why those above it did not. */
export function TryRoute({ link, route }: { link: Link; route: Route }) {
  const [isOpen, setIsOpen] = useState(false)
  const [trial, setTrial] = useState<Trial>({})
  const tried = useTriedRoute(link)
  const ask = (part: Trial) => setTrial({ ...trial, ...part })
  const errors = tried.error ? fieldErrors(tried.error) : {}
  const decided =
    tried.data && (tried.data.rule === null ? route.otherwise : route.rules?.[tried.data.rule - 1])
  const pages = decided?.to ?? []
  const submit = (event: FormEvent) => {
    event.preventDefault()
    tried.mutate(trial)
  }
  if (!isOpen)
    return (
      <Button size="compact-sm" variant="default" mb="md" onClick={() => setIsOpen(true)}>
        Try it
      </Button>
    )
  return (
    <form className={classes.trial} onSubmit={submit} aria-label="Try the rules">
      <Stack gap={10}>
        <Group gap={10} grow>
          <Select
            label="Country"
            placeholder="unknown"
            searchable
            clearable
            autoFocus
            data={countries}
            value={trial.country ?? null}
            onChange={(country) => ask({ country })}
          />
          <NativeSelect
            label="Device"
            data={[
              { value: '', label: trial.userAgent ? 'by the user agent' : 'another device' },
              ...devices,
            ]}
            value={trial.device ?? ''}
            onChange={(event) => ask({ device: (event.currentTarget.value || null) as Trial['device'] })}
          />
        </Group>
        <Group gap={10} grow align="start">
          <TextInput
            label="Language"
            placeholder="de, or de-AT;q=0.9, en"
            value={trial.language ?? ''}
            onChange={(event) => ask({ language: event.currentTarget.value || null })}
          />
          <TextInput
            label="Time"
            type="datetime-local"
            value={trial.at ?? ''}
            error={errors.at}
            onChange={(event) => ask({ at: event.currentTarget.value || null })}
          />
        </Group>
        <Group gap={10} grow>
          <TextInput
            label="Coming from"
            placeholder="network, or address"
            value={trial.referrer ?? ''}
            onChange={(event) => ask({ referrer: event.currentTarget.value || null })}
          />
          <TextInput
            label="Parameters"
            placeholder="ref=poster"
            value={trial.query ?? ''}
            onChange={(event) => ask({ query: event.currentTarget.value || null })}
          />
        </Group>
        <Textarea
          label="Or paste a user agent"
          rows={2}
          value={trial.userAgent ?? ''}
          error={errors.userAgent}
          onChange={(event) => ask({ userAgent: event.currentTarget.value || null })}
        />
        <Group gap={8}>
          <Button type="submit" size="compact-md" loading={tried.isPending}>
            Try it
          </Button>
          <Button size="compact-md" variant="default" onClick={() => setIsOpen(false)}>
            Close
          </Button>
        </Group>
        {tried.error && Object.keys(errors).length === 0 && <Failed error={tried.error} />}
        {tried.data && (
          <div role="status" aria-label="What they get">
            <Text fw={600}>
              {tried.data.rule === null ? 'Everyone else' : `Rule ${tried.data.rule}`}
              {pages.length > 1 ? (
                ': shared by'
              ) : tried.data.destination === null ? (
                ': closed'
              ) : (
                <>
                  : leads to <AddressText url={tried.data.destination} />
                </>
              )}
            </Text>
            {pages.length > 1 && <BranchPages pages={pages} />}
            <ol className={classes.why}>
              {tried.data.why.map((sentence, place) => (
                <li key={place}>{sentence}</li>
              ))}
            </ol>
          </div>
        )}
      </Stack>
    </form>
  )
}
