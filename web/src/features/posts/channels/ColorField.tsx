import { ColorInput, Radio } from '@mantine/core'
import { channelColors } from '../../../parts/channelColors'
import { Signet } from '../../../parts/Signet'

interface Props {
  /** The letters to show on each colour. */
  signet: string
  value: number | undefined
  /** A colour in place of one of the set; empty for none. */
  own: string
  error?: React.ReactNode
  onChange: (color: number | undefined, own: string) => void
}

/** What the field offers first, where somebody wants a colour of their own. */
const firstOwn = '#2f5d8a'

/** One of the ten colours, or one’s own, each shown as the channel’s own letters would look. */
export function ColorField({ signet, value, own, error, onChange }: Props) {
  const letters = signet || '··'
  return (
    <Radio.Group
      mt="sm"
      label="Colour"
      value={own ? 'own' : value === undefined ? '' : `${value}`}
      onChange={(color) => (color === 'own' ? onChange(value, firstOwn) : onChange(Number(color), ''))}
    >
      <div
        style={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: '10px 18px', marginTop: 4 }}
      >
        {channelColors.map((name, color) => (
          <div key={name} style={{ display: 'flex', alignItems: 'center', gap: 6 }}>
            <Radio value={`${color}`} aria-label={name} />
            <Signet channel={{ signet: letters, color }} />
          </div>
        ))}
        <Radio value="own" label="Own colour" />
        {own && (
          <>
            <Signet channel={{ signet: letters, color: 0, ownColor: own }} />
            <ColorInput
              aria-label="Own colour, as #rrggbb"
              w={140}
              format="hex"
              withEyeDropper={false}
              value={own}
              error={error}
              onChange={(typed) => onChange(value, typed || '#')}
            />
          </>
        )}
      </div>
    </Radio.Group>
  )
}
