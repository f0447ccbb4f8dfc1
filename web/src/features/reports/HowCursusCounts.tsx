import { useDocumentTitle } from '@mantine/hooks'
import Markdown from 'markdown-to-jsx'
import { Wordmark } from '../../shell/Wordmark'
import text from '../../../../docs/how-cursus-counts.md?raw'
import classes from './HowCursusCounts.module.css'

/** The page of the documentation, so that both say the same. */
export function HowCursusCounts() {
  useDocumentTitle('How Cursus counts and compares · Cursus')
  return (
    <main className={classes.page}>
      <a href="/" className={classes.home} aria-label="To Cursus">
        <Wordmark />
      </a>
      <Markdown options={{ forceBlock: true, disableParsingRawHTML: true, overrides: { table: Table } }}>
        {text}
      </Markdown>
    </main>
  )
}

/** Scrolls by itself where the page is too narrow for it. */
const Table = ({ children }: { children: React.ReactNode }) => (
  <div className={classes.table} tabIndex={0}>
    <table>{children}</table>
  </div>
)
