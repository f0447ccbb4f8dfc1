// How the database goes about a question: its plan with what each step took, for the question as the API asks it and for the same count over the clicks themselves.
import { readFileSync, statSync } from 'node:fs'
import { resolve } from 'node:path'
import { sql } from './server.mjs'

const log = resolve(process.env.CURSUS_BENCH_DATA, 'pg/server.log')

/** Plans of all statements that are run while `act` goes on and take longer than five milliseconds. */
export async function plansOf(act) {
  sql("load 'auto_explain'; alter role cursus set session_preload_libraries = 'auto_explain'; alter role cursus set auto_explain.log_min_duration = 5; alter role cursus set auto_explain.log_analyze = on")
  const restart = () => sql("select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()")
  restart()
  try {
    // Each of the server's pools notices at its own first question that its connections are gone.
    for (let tries = 10; ; tries--) {
      try {
        await act()
        break
      } catch (error) {
        if (tries === 0) throw error
      }
    }
    const from = statSync(log).size
    await act()
    return readFileSync(log).subarray(from).toString().split('\n').filter(isOfPlan).map(brief).join('\n')
  } finally {
    sql('alter role cursus reset all')
    restart()
  }
}

/** The plan of one statement. */
export const planOf = (query) => sql(`explain (analyze) ${query}`).map(([line]) => brief(line)).join('\n')

const isOfPlan = (line) => /duration: |actual time=|Rows Removed/.test(line)

const brief = (line) => line.replace(/\(cost=[^)]*\) /, '').replace(/^.*LOG: {2}/, '').replace(/^\t/, '')
