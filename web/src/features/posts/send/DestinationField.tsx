import { Loader, Text, TextInput } from '@mantine/core'
import { useCleanPaste } from '../../addresses/useCleanPaste'
import type { useLook } from './useLook'
import classes from './SendSheet.module.css'
import { number } from '../../../parts/format/numbers'

interface Props {
  value: string
  onChange: (value: string) => void
  look: ReturnType<typeof useLook>
  error?: string
  /** Whether the field begins with an address from elsewhere. */
  isGiven: boolean
}

const tenths = (n: number) => number(n, { minimumFractionDigits: 1, maximumFractionDigits: 1 })

/** The page's address, with what looking at it brought. */
export function DestinationField({ value, onChange, look, error, isGiven }: Props) {
  const isGood = look.data?.state === 'answers'
  const { onPaste, note } = useCleanPaste(value, onChange, isGiven)
  return (
    <div>
      <TextInput
        label="Destination"
        placeholder="Paste the page's address"
        autoFocus
        value={value}
        onChange={(event) => onChange(event.currentTarget.value)}
        onPaste={onPaste}
        error={error}
        rightSectionWidth={look.isFetching ? 34 : look.data ? 130 : undefined}
        rightSectionPointerEvents="none"
        rightSection={
          look.isFetching ? (
            <Loader size={14} aria-label="Checking the page" />
          ) : look.data ? (
            <span className={classes.look} style={{ color: isGood ? 'var(--good)' : 'var(--caution)' }}>
              {isGood
                ? `answers · ${tenths(Math.max(0.1, (look.data.milliseconds ?? 0) / 1000))} s`
                : look.data.state === 'refuses'
                  ? `error ${look.data.status}`
                  : look.data.state === 'loops'
                    ? 'points back here'
                    : 'didn’t respond'}
            </span>
          ) : null
        }
      />
      {note}
      {look.data && !isGood && !error && (
        <Text size="sm" c="var(--caution)" mt={4} role="status">
          {look.data.text}
        </Text>
      )}
    </div>
  )
}
