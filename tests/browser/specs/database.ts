import { spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'

/** Nobody writes to the table until the function that is answered is called: what is being written then stays being written, however fast the machine is. */
export const holdWriting = async (table: string): Promise<() => void> => {
  const data = process.env.CURSUS_DATA!
  const port = readFileSync(join(data, 'pg/postmaster.pid'), 'utf8').split('\n')[3]!
  const psql = spawn('psql', ['-qAt', '-h', '127.0.0.1', '-p', port, '-U', 'cursus', '-d', 'cursus'], {
    env: { ...process.env, PGPASSWORD: readFileSync(join(data, 'pg.password'), 'utf8').trim() },
  })
  psql.stdin.write(`begin; lock table ${table} in exclusive mode; select 'held';\n`)
  await new Promise<void>((held, refused) => {
    psql.stdout.once('data', () => held())
    psql.once('exit', () => refused(new Error(`The table ${table} could not be held`)))
  })
  return () => psql.stdin.end()
}
