const minute = 60
const hour = 60 * minute

/** How often something runs, in the words of a clock. */
export function howOften(seconds: number) {
  if (seconds % hour === 0) return every(seconds / hour, 'hour')
  return seconds % minute === 0 ? every(seconds / minute, 'minute') : every(seconds, 'second')
}

/** How long a run took. */
export function took(milliseconds: number) {
  if (milliseconds < 1000) return `${milliseconds} ms`
  const seconds = Math.round(milliseconds / 1000)
  return seconds < minute ? `${seconds} s` : `${Math.floor(seconds / minute)} min ${seconds % minute} s`
}

const every = (count: number, unit: string) => (count === 1 ? `every ${unit}` : `every ${count} ${unit}s`)
