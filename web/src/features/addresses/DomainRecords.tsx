import { ActionIcon, Alert, Button, Group, Text, Tooltip } from '@mantine/core'
import { IconCheck, IconCopy, IconX } from '@tabler/icons-react'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, read } from '../../api/client'
import type { Domain } from '../../api/vocabulary'
import { copy } from '../../parts/files/copy'
import { timeOf } from '../../parts/format/numbers'
import classes from './DomainRecords.module.css'

/** What DNS has to say for a short domain, what it says, and what to do about the difference. */
export function DomainRecords({ domain, mayCheck }: { domain: Domain; mayCheck: boolean }) {
  const queries = useQueryClient()
  const check = useMutation({
    mutationFn: () => read(api.POST('/api/v1/domains/{id}/check', { params: { path: { id: domain.id } } })),
    onSuccess: (checked) => {
      queries.setQueryData<Domain[]>(['domains'], (all) =>
        all?.map((d) => (d.id === checked.id ? checked : d)),
      )
    },
  })
  return (
    <div className={classes.records}>
      {domain.failingSince && (
        <Alert variant="default" role="alert" title="The records have changed" mb="sm">
          Since {timeOf(domain.failingSince)} they no longer point here. Visitors who still reach Cursus are
          redirected, but new ones may not be.
        </Alert>
      )}
      <Text size="sm" c="dimmed" mb={8}>
        Set these records at your registrar, with a time to live of one hour ({domain.timeToLive} seconds).{' '}
        {domain.isApex
          ? 'This is a registered domain, so it needs address records.'
          : 'This is a subdomain, so it needs a CNAME record.'}{' '}
        It can take up to 48 hours for changes to reach everyone.
      </Text>
      <table className={classes.table}>
        <thead>
          <tr>
            <th scope="col">Type</th>
            <th scope="col">Name</th>
            <th scope="col">Expected</th>
            <th scope="col">Found</th>
            <th scope="col">What to do</th>
          </tr>
        </thead>
        <tbody>
          {domain.records.map((record) => (
            <tr key={record.type}>
              <td>{record.type}</td>
              <td>
                <Copied what="Name" text={record.name} />
              </td>
              <td>
                {record.expected.map((value) => (
                  <Copied key={value} what="Value" text={value} />
                ))}
              </td>
              <td>{record.found.length > 0 ? record.found.map((f) => <div key={f}>{f}</div>) : 'nothing'}</td>
              <td style={{ color: record.isGood ? 'var(--good)' : 'var(--bad)' }}>
                {record.isGood ? (
                  <IconCheck size={15} aria-label="good" />
                ) : (
                  <IconX size={15} aria-label="not yet" />
                )}{' '}
                {record.text}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Group gap={12} mt="sm">
        {mayCheck && (
          <Button size="sm" variant="default" loading={check.isPending} onClick={() => check.mutate()}>
            Check again now
          </Button>
        )}
        <Text size="sm" c="dimmed" role="status">
          {domain.checkedAt ? `Checked ${timeOf(domain.checkedAt)}` : 'Not checked yet'}
          {domain.nextCheckAt && `, next automatic check ${timeOf(domain.nextCheckAt)}`}
          {check.isError && `. ${check.error.message}`}
        </Text>
      </Group>
    </div>
  )
}

function Copied({ what, text }: { what: string; text: string }) {
  return (
    <span className={classes.value}>
      <code>{text}</code>
      <Tooltip label="Copy">
        <ActionIcon
          size={26}
          variant="subtle"
          color="gray"
          aria-label={`Copy ${text}`}
          onClick={() => void copy(what, text)}
        >
          <IconCopy size={14} />
        </ActionIcon>
      </Tooltip>
    </span>
  )
}
