import { Text } from '@mantine/core'
import { AddressText } from '../../../parts/AddressText'
import { number, percent } from '../../../parts/format/numbers'
import type { BranchFigures, RoutedPage, Rule } from './routes'
import classes from './WhereItLeads.module.css'

interface Props {
  pages: readonly RoutedPage[]
  closed?: Rule['closed']
  /** Undefined until they are there, and where nothing can be counted yet. */
  figures?: BranchFigures
}

/** Where a branch ends: its pages with the shares that were set, and the people each got. */
export function BranchPages({ pages, closed, figures }: Props) {
  if (closed && !closed.page)
    return (
      <Text size="sm">
        Closed
        {figures && (
          <Text span size="sm" c="dimmed">
            {' '}
            (who is turned away isn’t counted)
          </Text>
        )}
      </Text>
    )
  const shown: readonly RoutedPage[] = closed ? [{ destination: closed.page ?? null }] : pages
  const isSplit = shown.length > 1
  return (
    <>
      {closed && <Text size="sm">Closed, leads to</Text>}
      {shown.map((page, place) => {
        const got = figures?.pages[place]
        return (
          <div key={page.destination} className={classes.page}>
            {isSplit && <span className={classes.share}>{page.weight}%</span>}
            <span>
              {page.name && <b>{page.name} </b>}
              <AddressText url={page.destination ?? ''} />
            </span>
            {got && (
              <span className={classes.people}>
                <b>{number(got.people)}</b>
                {isSplit && got.shareGot !== null && (
                  <Text span size="sm" c="dimmed">
                    {' '}
                    {percent(got.shareGot)}
                  </Text>
                )}
              </span>
            )}
          </div>
        )
      })}
      {figures?.pages.slice(shown.length).map((other) => (
        <div key={other.number} className={classes.page}>
          <span>
            {other.name} <AddressText url={other.destination} />
          </span>
          <span className={classes.people}>
            <b>{number(other.people)}</b>
          </span>
        </div>
      ))}
      {figures?.says && (
        <Text size="sm" c={figures.split === 'off' ? 'red' : 'dimmed'} mt={4}>
          {figures.says}
        </Text>
      )}
    </>
  )
}
