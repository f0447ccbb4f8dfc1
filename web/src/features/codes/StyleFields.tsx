import {
  ColorInput,
  Group,
  NumberInput,
  SegmentedControl,
  Stack,
  Switch,
  Text,
  TextInput,
} from '@mantine/core'
import type { ReactNode } from 'react'
import { LogoField } from './LogoField'
import type { CodeStyle } from './codes'

interface Props {
  style: Required<CodeStyle>
  mayUpload: boolean
  onChange: (style: CodeStyle) => void
}

const swatches = ['#000000', '#231b22', '#6e2a5b', '#54703a', '#a8323a', '#1f3c88', '#2b757b', '#7a4b00']
const grounds = ['#ffffff', '#fffdf9', '#f7f4ee', '#fdf0c4', '#dcebd8', '#e2c9d8']

/** Everything that can be chosen of a code's look. */
export function StyleFields({ style, mayUpload, onChange }: Props) {
  const set = (part: Partial<CodeStyle>) => onChange({ ...style, ...part })
  return (
    <Stack gap="md">
      <Choice label="Modules">
        <SegmentedControl
          fullWidth
          aria-label="Modules"
          value={style.modules}
          onChange={(modules) => set({ modules: modules })}
          data={[
            { value: 'square', label: 'Square' },
            { value: 'rounded', label: 'Rounded' },
            { value: 'dots', label: 'Dots' },
            { value: 'connected', label: 'Connected' },
          ]}
        />
      </Choice>
      <Group grow gap="sm">
        {(['corners', 'centres'] as const).map((part) => (
          <Choice key={part} label={part === 'corners' ? 'Corners' : 'Corner centres'}>
            <SegmentedControl
              fullWidth
              aria-label={part === 'corners' ? 'Corners' : 'Centres of the corners'}
              value={style[part]}
              onChange={(shape) => set({ [part]: shape })}
              data={[
                { value: 'square', label: 'Square' },
                { value: 'soft', label: 'Soft' },
                { value: 'round', label: 'Round' },
              ]}
            />
          </Choice>
        ))}
      </Group>
      <Group grow gap="sm" align="start">
        <Color label="Foreground" value={style.ink} onChange={(ink) => set({ ink })} />
        <div>
          <Color
            label="Background"
            value={style.ground ?? ''}
            among={grounds}
            onChange={(ground) => set({ ground })}
            isOff={style.ground === null}
          />
          <Switch
            mt={6}
            size="xs"
            label="Transparent"
            checked={style.ground === null}
            onChange={(event) => set({ ground: event.currentTarget.checked ? null : '#ffffff' })}
          />
        </div>
      </Group>
      <Group grow gap="sm" align="start">
        <Optional
          label="Corners in another colour"
          value={style.cornerInk}
          onChange={(cornerInk) => set({ cornerInk })}
          usual={style.ink}
        />
        <Optional
          label="Centres in another colour"
          value={style.centreInk}
          onChange={(centreInk) => set({ centreInk })}
          usual={style.ink}
        />
      </Group>
      <div>
        <Optional
          label="Gradient"
          value={style.gradient?.to ?? null}
          onChange={(to) =>
            set({ gradient: to === null ? null : { course: 'across', ...style.gradient, to } })
          }
          usual="#6e2a5b"
        />
        {style.gradient && (
          <SegmentedControl
            mt={6}
            size="xs"
            aria-label="Gradient direction"
            value={style.gradient.course}
            onChange={(course) => set({ gradient: { ...style.gradient!, course: course as 'across' } })}
            data={[
              { value: 'across', label: 'Across' },
              { value: 'down', label: 'Down' },
              { value: 'outward', label: 'Outward' },
            ]}
          />
        )}
      </div>
      <LogoField logo={style.logo} mayUpload={mayUpload} onChange={(logo) => set({ logo })} />
      <div>
        <Switch
          label="Caption"
          checked={style.frame !== null}
          onChange={(event) =>
            set({
              frame: event.currentTarget.checked
                ? { shape: 'under', text: 'Scan to read on', color: '#231b22', textColor: '#ffffff' }
                : null,
            })
          }
        />
        {style.frame && (
          <Group mt={8} gap="sm" align="end">
            <TextInput
              label="Words"
              maxLength={40}
              value={style.frame.text}
              onChange={(event) => set({ frame: { ...style.frame!, text: event.currentTarget.value } })}
              error={
                style.frame.text.trim() === '' ? 'Say what people get, or remove the caption.' : undefined
              }
              style={{ flex: 1 }}
            />
            <SegmentedControl
              aria-label="Caption position"
              value={style.frame.shape}
              onChange={(shape) => set({ frame: { ...style.frame!, shape: shape as 'under' } })}
              data={[
                { value: 'under', label: 'Under it' },
                { value: 'around', label: 'In a frame' },
              ]}
            />
            <Color
              label={style.frame.shape === 'around' ? 'Frame' : 'Colour'}
              value={style.frame.color ?? '#231b22'}
              onChange={(color) => set({ frame: { ...style.frame!, color } })}
            />
          </Group>
        )}
      </div>
      <NumberInput
        label="Quiet zone"
        description="Empty modules around the code. The standard is 4."
        w={220}
        min={0}
        max={20}
        value={style.quietZone}
        onChange={(value) => typeof value === 'number' && set({ quietZone: value })}
      />
    </Stack>
  )
}

const Choice = ({ label, children }: { label: string; children: ReactNode }) => (
  <div>
    <Text size="sm" fw={500} mb={4} aria-hidden>
      {label}
    </Text>
    {children}
  </div>
)

function Color(props: {
  label: string
  value: string
  among?: string[]
  isOff?: boolean
  onChange: (color: string) => void
}) {
  return (
    <ColorInput
      label={props.label}
      value={props.value}
      disabled={props.isOff}
      swatches={props.among ?? swatches}
      // Half a colour is nothing that could be drawn.
      onChange={(color) => /^#[0-9a-f]{6}$/i.test(color) && props.onChange(color)}
      eyeDropperButtonProps={{ 'aria-label': 'Pick a colour from the screen' }}
      popoverProps={{ withinPortal: true }}
    />
  )
}

/** A colour that is only there when it is switched on. */
function Optional(props: {
  label: string
  value: string | null
  usual: string
  onChange: (color: string | null) => void
}) {
  return (
    <div>
      <Switch
        label={props.label}
        checked={props.value !== null}
        onChange={(event) => props.onChange(event.currentTarget.checked ? props.usual : null)}
      />
      {props.value !== null && (
        <div style={{ marginTop: 6 }}>
          <Color label={`${props.label}: which`} value={props.value} onChange={props.onChange} />
        </div>
      )}
    </div>
  )
}
