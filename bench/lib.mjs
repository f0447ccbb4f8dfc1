// What the measurements share: asking the application, and telling what came of it.

export const address = process.env.CURSUS_ADDRESS

export async function ask(method, path, body, type = 'application/json') {
  const response = await fetch(`${address}/api/v1${path}`, {
    method,
    headers: { Authorization: `Bearer ${process.env.CURSUS_TOKEN}`, ...(body === undefined ? {} : { 'Content-Type': type }) },
    body: body === undefined || type !== 'application/json' ? body : JSON.stringify(body),
  })
  const text = await response.text()
  if (!response.ok) throw new Error(`${method} ${path} answered ${response.status}: ${text}`)
  return text === '' ? undefined : JSON.parse(text)
}

/** Seconds that `run` takes. */
export async function timed(run) {
  const from = performance.now()
  await run()
  return (performance.now() - from) / 1000
}

export function spread(values) {
  const sorted = values.toSorted((a, b) => a - b)
  const round = (n) => Number(n.toPrecision(4))
  return { min: round(sorted[0]), median: round(sorted[Math.floor(sorted.length / 2)]), max: round(sorted.at(-1)) }
}

/** Prints the figures for people, or as one JSON object for `--json`. */
export function tell(figures) {
  if (process.argv.includes('--json')) console.log(JSON.stringify(figures))
  else for (const [name, value] of Object.entries(figures)) console.log(`${name}: ${typeof value === 'object' ? JSON.stringify(value) : value}`)
}
