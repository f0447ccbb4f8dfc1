import { Alert, Button, Group, Radio, Stack, Text, Textarea, TextInput } from '@mantine/core'
import { useDebouncedValue } from '@mantine/hooks'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { api, read, wordsOf, type Schema } from '../../api/client'
import classes from './Audiences.module.css'

type Reading = Schema['PixelsReading']

/** Sets a pixel up by one paste: an id, or the whole code, of which only the id is taken. */
export function AddPixel({ onDone }: { onDone?: () => void }) {
  const [pasted, setPasted] = useState('')
  const [asked] = useDebouncedValue(pasted.trim(), 250)
  const [name, setName] = useState('')
  const [chosen, setChosen] = useState<string>()
  const queries = useQueryClient()
  const navigate = useNavigate()
  const reading = useQuery({
    queryKey: ['pixel-reading', asked],
    queryFn: () => read(api.POST('/api/v1/pixels/reading', { body: { pasted: asked } })),
    enabled: asked !== '',
  })
  const readings = asked === '' ? [] : (reading.data?.readings ?? [])
  const taken = readings.length === 1 ? readings[0] : readings.find((r) => r.network === chosen)
  const add = useMutation({
    mutationFn: (pixel: Reading) =>
      read(
        api.POST('/api/v1/pixels', {
          body: {
            name: name.trim() || pixel.networkName,
            network: pixel.network,
            reference: pixel.reference,
          },
        }),
      ),
    onSuccess: async (pixel) => {
      await queries.invalidateQueries({ queryKey: ['pixels'] })
      onDone?.()
      void navigate({ to: '/audiences/$pixelId', params: { pixelId: pixel.id } })
    },
  })
  return (
    <form
      className={classes.leaf}
      aria-label="Set up a pixel"
      onSubmit={(event) => {
        event.preventDefault()
        if (taken) add.mutate(taken)
      }}
    >
      <Stack gap="sm">
        <Textarea
          label="Pixel ID or code"
          description="Paste it as the ad network shows it. Only the ID is used; the code is neither stored nor run."
          autosize
          minRows={3}
          maxRows={10}
          spellCheck={false}
          styles={{ input: { fontFamily: 'var(--mantine-font-family-monospace)', fontSize: 13 } }}
          value={pasted}
          onChange={(event) => setPasted(event.currentTarget.value)}
        />
        <div aria-live="polite">
          {asked !== '' && reading.isError && <Text c="red">{wordsOf(reading.error)}</Text>}
          {asked !== '' && reading.data?.missing && <Text c="var(--bad)">{reading.data.missing}</Text>}
          {readings.length > 1 && (
            <Radio.Group
              label="This could be several pixels. Which one is it?"
              value={chosen ?? null}
              onChange={setChosen}
            >
              <Stack gap={6} mt={6}>
                {readings.map((r) => (
                  <Radio key={r.network} value={r.network} label={r.networkName} />
                ))}
              </Stack>
            </Radio.Group>
          )}
          {taken && (
            <Text mt={readings.length > 1 ? 'sm' : 0}>
              Understood: <b>{taken.networkName}</b>, {taken.isId ? 'id' : 'address'}{' '}
              <code style={{ overflowWrap: 'anywhere' }}>{taken.reference}</code>
            </Text>
          )}
        </div>
        {taken && (
          <Group align="end" gap="sm">
            <TextInput
              label="Name"
              placeholder={taken.networkName}
              maxLength={60}
              value={name}
              onChange={(event) => setName(event.currentTarget.value)}
            />
            <Button type="submit" loading={add.isPending}>
              Add pixel
            </Button>
          </Group>
        )}
        {add.isError && (
          <Alert role="alert" variant="default" title="Not added">
            {wordsOf(add.error)}
          </Alert>
        )}
      </Stack>
    </form>
  )
}
