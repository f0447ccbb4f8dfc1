// Visitors who follow one link at a steady pace, in a thread of their own so that nothing else that is measured holds them up. Told to stop, they say how many were led on and how long it took.
import { Agent, request } from 'node:http'
import { parentPort, workerData } from 'node:worker_threads'

const { port, domain, slug, first } = workerData
const agent = new Agent({ keepAlive: true, maxSockets: 1 })
const took = []
let going = true
let failed = 0
let number = first
parentPort.once('message', () => (going = false))

const follow = () =>
  new Promise((done) => {
    number++
    const headers = {
      Host: domain,
      Accept: 'text/html',
      'User-Agent': `Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 Person/${number}`,
      'X-Forwarded-For': `${20 + (number >> 16)}.${(number >> 8) & 255}.${number & 255}.7`,
    }
    const visit = request({ agent, host: '127.0.0.1', port, path: `/${slug}`, headers }, (answer) => {
      failed += answer.statusCode === 302 ? 0 : 1
      answer.resume().on('end', done)
    })
    visit.on('error', () => {
      failed++
      done()
    })
    visit.end()
  })

while (going) {
  const from = performance.now()
  await follow()
  took.push(performance.now() - from)
  await new Promise((next) => setTimeout(next, 4))
}
agent.destroy()
parentPort.postMessage({ count: took.length, failed, p99: took.sort((a, b) => a - b)[Math.floor(took.length * 0.99)] })
