import { Alert, Anchor, Button, Group, Text, Textarea } from '@mantine/core'
import { Dropzone } from '@mantine/dropzone'
import '@mantine/dropzone/styles.css'
import { IconFileSpreadsheet } from '@tabler/icons-react'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { wordsOf } from '../../api/client'
import { count, counted, timeOf } from '../../parts/format/numbers'
import { takeFile } from '../../parts/files/takeFile'
import classes from './Batch.module.css'
import { batchesQuery, batchQuery, uploadList } from './batches'

/** Hands a list over: pasted, or dropped as a file. */
export function ListEntry({ onOpen }: { onOpen: (batch: string) => void }) {
  const [text, setText] = useState('')
  const queries = useQueryClient()
  const lines = text.split('\n').filter((line) => line.trim() !== '').length
  const upload = useMutation({
    mutationFn: ({ list, name }: { list: Blob; name: string }) => uploadList(list, name),
    onSuccess: (batch) => {
      queries.setQueryData(batchQuery(batch.id).queryKey, batch)
      onOpen(batch.id)
    },
  })
  const take = () => upload.mutate({ list: new Blob([text]), name: 'Pasted list' })
  return (
    <>
      <div className={classes.entry}>
        <form
          onSubmit={(event) => {
            event.preventDefault()
            take()
          }}
        >
          <Textarea
            label="One address per line"
            placeholder={
              'https://www.example.org/a-page\nhttps://www.example.org/another\n\nor rows copied from a spreadsheet'
            }
            autosize
            minRows={11}
            maxRows={18}
            autoFocus
            spellCheck={false}
            value={text}
            onChange={(event) => setText(event.currentTarget.value)}
            onKeyDown={(event) => {
              if (event.key === 'Enter' && (event.ctrlKey || event.metaKey) && lines > 0) take()
            }}
          />
          <Button type="submit" mt={12} disabled={lines === 0} loading={upload.isPending}>
            {lines > 1 ? `Read these ${count(lines)} lines` : 'Preview list'}
          </Button>
        </form>
        <div>
          <Text component="h2" fw={600} size="sm" mb={3}>
            Or a file
          </Text>
          <Dropzone
            className={classes.drop}
            multiple={false}
            loading={upload.isPending}
            onDrop={([file]) => file && upload.mutate({ list: file, name: file.name })}
            inputProps={{ 'aria-label': 'CSV or XLSX file' }}
          >
            <IconFileSpreadsheet size={36} stroke={1.2} aria-hidden />
            <Text>Drop a CSV or XLSX file here</Text>
            <Text size="sm" c="dimmed">
              or press to choose one · up to 100,000 lines
            </Text>
          </Dropzone>
          <Text size="sm" mt={10} c="dimmed">
            Columns are recognised by name, for example <b>destination</b>, <b>title</b>, <b>channel</b> or{' '}
            <b>utm_campaign</b>. Exports from other tools work too, with short addresses, groups, dates and
            click totals.{' '}
            <Anchor {...takeFile('/api/v1/batches/template.csv')} inherit underline="always">
              Download a template
            </Anchor>
          </Text>
        </div>
      </div>
      {upload.error && (
        <Alert role="alert" variant="default" mt="md" title="Couldn’t read this list">
          {wordsOf(upload.error)}
        </Alert>
      )}
      <Earlier />
    </>
  )
}

/** Lists that were handed over before, with their results. */
function Earlier() {
  const batches = useQuery(batchesQuery)
  if (!batches.data?.length) return null
  return (
    <section aria-labelledby="earlier-lists" className={classes.earlier}>
      <h2 id="earlier-lists">Previous lists</h2>
      <ul>
        {batches.data.map((batch) => (
          <li key={batch.id}>
            <Group gap={12}>
              <Anchor
                renderRoot={(props) => <Link to="/send/many" search={{ batch: batch.id }} {...props} />}
                className={classes.name}
                title={batch.name}
              >
                {batch.name}
              </Anchor>
              <Text size="sm" c="dimmed">
                {timeOf(batch.doneAt ?? batch.createdAt)}
                {' · '}
                {batch.doneAt ? counted(batch.links, 'link') : 'not created yet'}
                {batch.leftOut > 0 && `, ${counted(batch.leftOut, 'line')} skipped`}
              </Text>
            </Group>
          </li>
        ))}
      </ul>
    </section>
  )
}
