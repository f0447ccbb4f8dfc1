import { createTheme, type CSSVariablesResolver, type MantineColorsTuple } from '@mantine/core'

/** Tyrian plum: one ramp of ten. Shade 7 carries white text on light paper, shade 5 on dark. */
const tyrian: MantineColorsTuple = [
  '#f6ecf3',
  '#ead8e4',
  '#d9b3cd',
  '#cb97ba',
  '#b9739f',
  '#a0518a',
  '#87407a',
  '#6e2a5b',
  '#5a214a',
  '#451838',
]

/** Madder, for what goes wrong or away. */
const red: MantineColorsTuple = [
  '#faeced',
  '#f3d5d7',
  '#eab4b8',
  '#f0969b',
  '#d9686f',
  '#c4474f',
  '#b63a43',
  '#a8323a',
  '#8a262d',
  '#6b1a20',
]

/** Aubergine: Mantine's dark surfaces, from text to the deepest ground. */
const dark: MantineColorsTuple = [
  '#efe8e4',
  '#d3c9cb',
  '#b9aeb4',
  '#8d808a',
  '#463b46',
  '#352b35',
  '#251d25',
  '#191419',
  '#120e12',
  '#0c090c',
]

export const theme = createTheme({
  primaryColor: 'tyrian',
  primaryShade: { light: 7, dark: 5 },
  colors: { tyrian, red, dark },
  white: '#fffdf9',
  black: '#231b22',
  fontFamily: "'Hanken Grotesk Variable', system-ui, sans-serif",
  headings: { fontFamily: "'Bricolage Grotesque Variable', system-ui, sans-serif", fontWeight: '650' },
  fontSizes: { xs: '12.5px', sm: '14px', md: '15px', lg: '17px', xl: '20px' },
  defaultRadius: 8,
  cursorType: 'pointer',
  respectReducedMotion: true,
  components: {
    Tooltip: { defaultProps: { openDelay: 400, withArrow: true } },
    SegmentedControl: {
      styles: { root: { backgroundColor: 'var(--hair)' }, indicator: { backgroundColor: 'var(--leaf)' } },
    },
    Select: { defaultProps: { allowDeselect: false, checkIconPosition: 'right' } },
  },
})

export const cssVariables: CSSVariablesResolver = () => ({
  variables: {},
  light: {
    '--mantine-color-body': '#f7f4ee',
    '--mantine-color-dimmed': '#655a62',
    '--mantine-color-placeholder': '#7a6f77',
    '--mantine-color-anchor': '#6e2a5b',
    '--mantine-color-error': '#a8323a',
    '--mantine-color-default-border': '#d6cdbf',
    '--mantine-color-default-hover': '#f4eee5',
    '--mantine-color-disabled': '#ebe4d9',
    '--mantine-color-disabled-color': '#8c8189',
    '--mantine-color-disabled-border': '#ddd5c8',
  },
  dark: {
    '--mantine-color-body': '#191419',
    '--mantine-color-dimmed': '#b3a8ae',
    '--mantine-color-placeholder': '#9d919a',
    '--mantine-color-anchor': '#d9b3cd',
    '--mantine-color-error': '#f0969b',
    '--mantine-color-default-border': '#4b3e4a',
    '--mantine-color-default-hover': '#2e252e',
    '--mantine-color-disabled': '#2e252e',
    '--mantine-color-disabled-color': '#8b7f87',
    '--mantine-color-disabled-border': '#3b303b',
  },
})
