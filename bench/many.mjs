// Ten thousand links from one list, against the same links made one request at a time. The two take turns.
import { ask, spread, tell, timed } from './lib.mjs'

const rounds = 5
const listed = 10_000
const single = 200
const forAll = { campaign: 'winter-members', channels: ['perch'] }
const lists = []
const singles = []

for (let round = 0; round < rounds; round++) {
  singles.push(
    await timed(async () => {
      for (let i = 0; i < single; i++)
        await ask('POST', '/links', { destination: `https://www.northmoor.localhost/single/${round}/${i}`, campaign: 'winter-members', channel: 'perch' })
    }),
  )
  const list = Array.from({ length: listed }, (_, i) => `https://www.northmoor.example/listed/${round}/${i}`).join('\n')
  let id
  lists.push(
    await timed(async () => {
      id = (await ask('POST', '/batches?name=bench.txt', list, 'text/plain')).id
      await ask('POST', `/batches/${id}/run`, { forAll })
      for (;;) {
        const { state, failure } = await ask('GET', `/batches/${id}`)
        if (state === 'done') return
        if (state === 'waiting') throw new Error(failure)
        await new Promise((resolve) => setTimeout(resolve, 50))
      }
    }),
  )
  await ask('POST', `/batches/${id}/undo`)
}

const perSingle = singles.map((s) => s / single)
const perListed = lists.map((s) => s / listed)
tell({
  measured: `${listed} links from one list, uploaded, made and asked for until done, ${rounds} times`,
  secondsForTheList: spread(lists),
  secondsForOneLinkAlone: spread(perSingle),
  linksOfAListInTheTimeOfOneAlone: spread(perSingle.map((s, i) => s / perListed[i])),
})
