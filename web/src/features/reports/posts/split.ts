/** What all parts of a split add up to, in per cent. */
export const whole = 100

/** The most even split over so many variants, in whole per cent: 34, 33, 33. */
export const alike = (variants: number) =>
  Array.from({ length: variants }, (_, i) => Math.floor(whole / variants) + (i < whole % variants ? 1 : 0))

/** The parts with one of them changed; where there are but two, the other one is what is left. */
export const withPart = (parts: readonly number[], at: number, part: number) =>
  parts.map((other, i) =>
    i === at ? part : parts.length === 2 && part > 0 && part < whole ? whole - part : other,
  )
