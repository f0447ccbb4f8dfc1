// Any of 50,000 links found: how long the list of links takes to answer words typed by somebody who remembers the link well, in part, or with a slip, how long filters and orders take,
// and whether the link that was meant stands among the first ten. Beside it the same list without words, so that the machine's own pace can be told from the search's.
import { address, ask, tell } from './lib.mjs'

const links = process.argv.includes('--small') ? 2_000 : 50_000
const rounds = 60
const first = ['Autumn', 'Bright', 'Copper', 'Distant', 'Evening', 'Frozen', 'Golden', 'Hidden', 'Inner', 'Jade', 'Keen', 'Lunar', 'Misty', 'Northern', 'Outer', 'Polar', 'Quiet', 'Radiant', 'Silver', 'Twilight']
const second = ['aurora', 'binoculars', 'comet', 'dome', 'eclipse', 'filter', 'galaxy', 'horizon', 'instrument', 'jupiter', 'kepler', 'lens', 'meteor', 'nebula', 'observatory', 'planet', 'quasar', 'refractor', 'saturn', 'telescope']
const third = ['album', 'broadcast', 'course', 'dinner', 'evening', 'film', 'guide', 'handbook', 'invitation', 'journal', 'lecture', 'market', 'newsletter', 'opening', 'poster', 'quiz', 'raffle', 'supper', 'tour', 'workshop']

let seed = 20261126
const random = (below) => ((seed = (seed * 1103515245 + 12345) % 2147483648), Math.floor((seed / 2147483648) * below))
const made = Array.from({ length: links }, (_, n) => ({
  title: `${first[n % 20]} ${second[Math.floor(n / 20) % 20]} ${third[Math.floor(n / 400) % 20]} ${n}`,
  slug: `${first[n % 20]}-${second[Math.floor(n / 20) % 20]}-${n}`.toLowerCase(),
}))
const list = ['destination,title,slug,tags', ...made.map(({ title, slug }, n) => `https://www.northmoor.example/pages/${slug}?part=${n % 97},${title},${slug},${third[n % 20]}`)].join('\n')
const batch = await ask('POST', `/batches?name=find.csv`, list, 'text/csv')
await ask('POST', `/batches/${batch.id}/run`, {})
for (let now = {}; now.state !== 'done'; now = await ask('GET', `/batches/${batch.id}`)) {
  if (now.state === 'waiting' && now.failure) throw new Error(now.failure)
  await new Promise((resolve) => setTimeout(resolve, 500))
}

const swapped = (word) => word.slice(0, 3) + word[4] + word[3] + word.slice(5)
const kinds = {
  withoutWords: () => ({}),
  slug: (link) => ({ query: link.slug, meant: link.slug }),
  twoWordsAndNumber: (link) => ({ query: `${link.title.split(' ')[1]} ${link.title.split(' ')[3]}`, meant: link.slug }),
  partOfWord: (link) => ({ query: link.slug.split('-')[1].slice(1) }),
  twoLetters: (link) => ({ query: link.title.slice(0, 2) }),
  slip: (link) => ({ query: `${swapped(link.title.split(' ')[1])} ${link.title.split(' ')[2]}` }),
  wordAndTag: (link) => ({ query: link.title.split(' ')[0], tag: third[random(20)] }),
  byClicks: () => ({ sort: 'clicks' }),
  byTitle: () => ({ sort: 'title' }),
  neverClicked: () => ({ state: 'never-clicked' }),
}

const milliseconds = Object.fromEntries(Object.keys(kinds).map((kind) => [kind, []]))
let [meant, found] = [0, 0]
for (let round = -5; round < rounds; round++)
  for (const [kind, asking] of Object.entries(kinds)) {
    const { meant: slug, ...query } = asking(made[random(links)])
    const began = performance.now()
    const response = await fetch(`${address}/api/v1/links?${new URLSearchParams({ limit: '50', ...query })}`, { headers: { Authorization: `Bearer ${process.env.CURSUS_TOKEN}` } })
    const answer = await response.json()
    if (round < 0) continue
    milliseconds[kind].push(performance.now() - began)
    if (slug) {
      meant++
      if (answer.items.slice(0, 10).some((link) => link.slug === slug)) found++
    }
  }

const at = (values, share) => Number(values.toSorted((a, b) => a - b)[Math.floor(share * (values.length - 1))].toPrecision(3))
const withWords = Object.entries(milliseconds).flatMap(([kind, all]) => (['withoutWords', 'byClicks', 'byTitle', 'neverClicked'].includes(kind) ? [] : all))
const plain = at(milliseconds.withoutWords, 0.5)
tell({
  measured: `${rounds} questions of each kind to ${links} links, 50 links an answer`,
  milliseconds: Object.fromEntries(Object.entries(milliseconds).map(([kind, all]) => [kind, { median: at(all, 0.5), p95: at(all, 0.95) }])),
  allQuestionsWithWords: { median: at(withWords, 0.5), p95: at(withWords, 0.95) },
  timesTheListWithoutWords: Object.fromEntries(Object.entries(milliseconds).map(([kind, all]) => [kind, Number((at(all, 0.5) / plain).toPrecision(3))])),
  meantIsAmongTheFirstTen: `${found} of ${meant}`,
})
