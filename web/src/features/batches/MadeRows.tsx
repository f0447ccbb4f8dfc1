import { addressOf } from '../../parts/format/addressText'
import type { Schema } from '../../api/client'
import { useChannels } from '../../api/vocabulary'
import { count, counted, day } from '../../parts/format/numbers'
import { Signet } from '../../parts/Signet'
import classes from './Batch.module.css'

type Row = Schema['RunBatchRow']

const outcomes: Partial<Record<Row['outcome'], string>> = {
  renamed: 'different slug, because that one is taken',
  'taken-over': 'updates the existing link',
}

/** The first links as they would come out. */
export function MadeRows({ rows, links }: { rows: Row[]; links: number }) {
  const channels = useChannels()
  if (rows.length === 0) return null
  return (
    <section aria-labelledby="first-links" className={classes.made}>
      <h2 id="first-links">
        {links > rows.length
          ? `The first ${count(rows.length)} of ${counted(links, 'link')}`
          : counted(links, 'link')}
      </h2>
      <div className={classes.leaf}>
        <table className={classes.rows}>
          <thead>
            <tr>
              <th scope="col">Line</th>
              <th scope="col">Channel</th>
              <th scope="col">Title</th>
              <th scope="col">Short address</th>
              <th scope="col">Destination</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, i) => {
              const channel = channels.get(row.channel ?? '')
              return (
                <tr key={i}>
                  <td>{count(row.line)}</td>
                  <td>
                    {channel ? (
                      <span className={classes.channel}>
                        <Signet channel={channel} /> {channel.name}
                      </span>
                    ) : (
                      '–'
                    )}
                  </td>
                  <td title={row.title}>
                    {row.title}
                    <Beside text={past(row)} />
                  </td>
                  <td title={row.remark ?? undefined}>
                    {row.shortUrl ? addressOf(row.shortUrl) : 'assigned when created'}
                    <Beside text={outcomes[row.outcome]} />
                  </td>
                  <td title={row.finalUrl}>{addressOf(row.finalUrl)}</td>
                </tr>
              )
            })}
          </tbody>
        </table>
      </div>
    </section>
  )
}

/** What a line brings from elsewhere. */
function past(row: Row) {
  return [
    row.createdOn && `created ${day(row.createdOn)}`,
    row.broughtAlong !== null && `${counted(row.broughtAlong, 'click')} imported`,
    row.folder && `in ${row.folder}`,
  ]
    .filter(Boolean)
    .join(' · ')
}

function Beside({ text }: { text: string | undefined }) {
  return text ? <small className={classes.beside}>{text}</small> : null
}
