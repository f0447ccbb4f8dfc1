import { defineConfig } from '@playwright/test'

// Without this the browser calls itself headless, and its visits would be a machine's.
const userAgent = 'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36'

// Each of two browsers has an installation of its own; the environment names them in order.
const place = Number(process.env.TEST_PARALLEL_INDEX ?? 0)
const port = Number(process.env.CURSUS_PORTS?.split(' ')[place])
process.env.CURSUS_ADDRESS = `http://localhost:${port}`
process.env.CURSUS_STANDINS_PORT = `${port + 1}`
process.env.CURSUS_DATA = process.env.CURSUS_DATAS?.split(':')[place]

const args =
  '--no-sandbox --disable-gpu --disable-dev-shm-usage --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync'

export default defineConfig({
  testDir: 'specs',
  outputDir: 'results/traces',
  timeout: 120_000,
  expect: { timeout: 30_000 },
  workers: 2,
  // A shared machine may stand still for seconds. What passes at the second try only is told at the end of all tests.
  retries: 1,
  reporter: [['list'], ['json', { outputFile: 'results/results.json' }]],
  use: {
    baseURL: process.env.CURSUS_ADDRESS,
    viewport: { width: 1280, height: 800 },
    permissions: ['clipboard-read', 'clipboard-write'],
    screenshot: 'only-on-failure',
    reducedMotion: 'reduce',
    launchOptions: { executablePath: '/usr/bin/chromium', args: [...args.split(' '), `--user-agent=${userAgent}`] },
  },
})
