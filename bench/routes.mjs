// Routes for links of the measured installation: five rules that ask for country, device and hour, and a split over three pages for everyone else.
import { get } from 'node:http'
import { serverPort, sql, until } from './server.mjs'

const page = (number, weight, from, to) => ({
  destination: `https://www.northmoor.example/routed/${number}?utm_source=perch&utm_medium=social&utm_campaign=winter-members-2026`,
  weight,
  slots: [{ from, to }],
  number,
})
const id = (n) => `00000000-0000-7000-8000-0000000000${n + 10}`
const rule = (number, when) => ({ when, to: { id: id(number), pages: [page(number + 1, 100, 0, 1000)] }, number })

const route = {
  rules: [
    rule(1, { countries: ['IS'] }),
    rule(2, { countries: ['AT', 'CH'], devices: ['phone'] }),
    rule(3, { devices: ['tablet'], week: { days: ['monday', 'tuesday', 'wednesday', 'thursday', 'friday'], from: 480, to: 1080 } }),
    rule(4, { countries: ['FR'], devices: ['computer'] }),
    rule(5, { countries: ['PT'], week: { days: ['sunday'], from: 60, to: 360 } }),
  ],
  otherwise: { id: id(9), pages: [page(7, 50, 0, 500), page(8, 30, 500, 800), page(9, 20, 800, 1000)] },
}

/** Takes away what an earlier measurement left. */
export const removeRoutes = () => sql('update links set route = null, last_rule = 0 where route is not null; delete from routed_pages')

/** Gives the links of these slugs the route, and waits until visitors follow it. */
export async function addRoutes(slugs) {
  const text = JSON.stringify(route)
  const wanted = `select id from links where slug in ('${slugs.join("','")}')`
  sql(`
    update links set route = '${text}', last_rule = 5 where id in (${wanted});
    insert into routed_pages (link_id, number, destination, is_used)
      select l.id, p.number, 'https://www.northmoor.example/routed/' || p.number, true from (${wanted}) l, generate_series(2, 9) as p (number)`)
  await until('visitors were led by rules', 60, () => location(slugs[0]).then((to) => to.includes('/routed/')))
}

const location = (slug) =>
  new Promise((done, failed) =>
    get({ host: '127.0.0.1', port: serverPort, path: `/${slug}`, headers: { Host: 'nmoor.localhost' } }, (answer) => {
      answer.resume()
      done(answer.headers.location ?? '')
    }).on('error', failed),
  )
