import { chromium } from '@playwright/test'
const [,, script, scheme='light', w='1280', h='800'] = process.argv
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: '--no-sandbox --disable-gpu --disable-dev-shm-usage --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync'.split(' ') })
const context = await browser.newContext({ viewport: { width: +w, height: +h }, colorScheme: scheme, reducedMotion: 'reduce' })
await context.grantPermissions(['clipboard-read','clipboard-write'])
const page = await context.newPage()
page.on('console', m => { if (['error','warning'].includes(m.type())) console.log('CONSOLE', m.text().slice(0,300)) })
page.on('pageerror', e => console.log('PAGEERROR', e.message))
const B = process.env.B ?? 'http://localhost:5080'
const shot = n => page.screenshot({ path: `/tmp/shots/${n}.png` })
const signIn = async () => { await page.goto(B + '/'); await page.getByRole('button', { name: /Maren Holloway/ }).click(); await page.waitForURL('**/send*') ; await page.getByRole('heading', { level: 1 }).waitFor() }
const { default: run } = await import(script)
try { await run({ page, context, shot, signIn, B }) } catch (e) { console.log('FAILED', e.message); await shot('failed') }
await browser.close()
