import { Radio } from '@mantine/core'
import { channelColors } from '../../parts/channelColors'
import { Signet } from '../../parts/Signet'

interface Props {
  /** The letters to show on each colour. */
  signet: string
  value: number | undefined
  onChange: (color: number) => void
}

/** One of the ten colours, each shown as the channel’s own letters would look. */
export function ColorField({ signet, value, onChange }: Props) {
  return (
    <Radio.Group
      mt="sm"
      label="Colour"
      value={value === undefined ? '' : `${value}`}
      onChange={(color) => onChange(Number(color))}
    >
      <div style={{ display: 'flex', flexWrap: 'wrap', gap: '10px 18px', marginTop: 4 }}>
        {channelColors.map((name, color) => (
          <div key={name} style={{ display: 'flex', alignItems: 'center', gap: 6 }}>
            <Radio value={`${color}`} aria-label={name} />
            <Signet channel={{ signet: signet || '··', color }} />
          </div>
        ))}
      </div>
    </Radio.Group>
  )
}
