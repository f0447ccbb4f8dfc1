import '@mantine/dates/styles.css'
import { DatePicker } from '@mantine/dates'
import { useState } from 'react'

interface Props {
  from?: string
  to?: string
  onPick: (from: string, to: string) => void
}

/** Any range of days. Loaded only when somebody opens it. */
export function RangePicker({ from, to, onPick }: Props) {
  const [range, setRange] = useState<[string | null, string | null]>([from ?? null, to ?? null])
  return (
    <DatePicker
      type="range"
      aria-label="Custom dates"
      allowSingleDateInRange
      firstDayOfWeek={1}
      defaultDate={from}
      value={range}
      onChange={(picked) => {
        setRange(picked)
        if (picked[0] && picked[1]) onPick(picked[0], picked[1])
      }}
    />
  )
}
