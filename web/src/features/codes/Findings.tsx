import { Button, Progress, Text } from '@mantine/core'
import { useHotkeys } from '@mantine/hooks'
import { IconAlertTriangle, IconCheck, IconX } from '@tabler/icons-react'
import classes from './Codes.module.css'
import type { CodeStyle, Finding, Judgement } from './codes'

interface Props {
  judgement: Judgement | undefined
  isPending: boolean
  /** Whether the reader in this browser reads it; undefined while it tries. */
  isRead: boolean | undefined
  /** What the rules say at once, before the code is read back. */
  findings: Finding[]
  onFix: (style: CodeStyle) => void
}

const disturbances: Record<Judgement['readings'][number]['disturbance'], string> = {
  small: 'Small',
  blur: 'Out of focus',
  turned: 'At an angle',
  jpeg: 'As JPEG',
  'grey-print': 'Printed in grey',
}

/** Whether a code scans: what is left of its strength, and what to do where that is too little. One key mends the first. */
export function Findings({ judgement, isPending, isRead, findings, onFix }: Props) {
  const told = [
    ...findings,
    ...(isPending ? [] : (judgement?.findings ?? []).filter((f) => !findings.some((g) => g.rule === f.rule))),
  ].sort((a, b) => Number(b.isRefused) - Number(a.isRefused))
  const first = told.find((finding) => finding.fix)
  useHotkeys([['f', () => first?.fix && onFix(first.fix)]])
  const isRefused = told.some((finding) => finding.isRefused) || isRead === false
  return (
    <section aria-label="Does it scan?" className={classes.verdict}>
      <div role="status">
        <Text fw={650} c={isRefused ? 'var(--bad)' : 'var(--good)'}>
          {isRefused ? (
            <>
              <IconX size={18} aria-hidden className={classes.sign} /> Would not scan reliably
            </>
          ) : isPending || isRead === undefined ? (
            <Text span c="dimmed">
              Testing…
            </Text>
          ) : (
            <>
              <IconCheck size={18} aria-hidden className={classes.sign} /> Scans, with {judgement?.score}% to
              spare
            </>
          )}
        </Text>
      </div>
      {told.map((finding) => (
        <div key={finding.rule} className={classes.finding}>
          <IconAlertTriangle
            size={16}
            aria-hidden
            color={finding.isRefused ? 'var(--bad)' : 'var(--caution)'}
          />
          <div>
            <Text size="sm">{finding.reason}</Text>
            {finding.fix && (
              <Button size="compact-sm" variant="default" mt={4} onClick={() => onFix(finding.fix!)}>
                {finding.fixLabel}
                {finding === first && <kbd className={classes.key}>f</kbd>}
              </Button>
            )}
          </div>
        </div>
      ))}
      {isRead === false && !told.some((f) => f.isRefused) && (
        <Text size="sm">
          This browser can’t read it, although the server can. Increase the contrast, or choose plainer
          shapes.
        </Text>
      )}
      {judgement && !isPending && (
        <dl className={classes.readings}>
          {judgement.readings.map((reading) => (
            <div key={reading.disturbance}>
              <dt>{disturbances[reading.disturbance]}</dt>
              <dd>
                <Progress
                  value={reading.margin}
                  size="sm"
                  color={judgement.isLetThrough ? 'var(--good)' : 'var(--bad)'}
                  aria-hidden
                />
                <span>{reading.margin}%</span>
              </dd>
            </div>
          ))}
        </dl>
      )}
    </section>
  )
}
