import { Text } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { api, read } from '../../../api/client'
import { addressOf } from '../../../parts/format/addressText'
import { count, counted, percent } from '../../../parts/format/numbers'
import { Failed } from '../../../parts/States'
import table from '../../reports/compare/Compare.module.css'

/** What the pages got that links of a post are split over; nothing where none is. */
export function PostSplits({ post }: { post: string }) {
  const splits = useQuery({
    queryKey: ['links', 'routes', 'post', post],
    queryFn: () => read(api.GET('/api/v1/posts/{id}/routes/figures', { params: { path: { id: post } } })),
    refetchInterval: 30_000,
  })
  if (splits.isError) return <Failed error={splits.error} onRetry={() => void splits.refetch()} />
  if (!splits.data?.length) return null
  return (
    <section className={table.leaf} aria-label="Splits" tabIndex={0}>
      <h2 className={table.heading}>Where visitors were split</h2>
      {splits.data.map(({ links, figures }) => (
        <div key={figures.pages.map((page) => `${page.shareSet} ${page.destination}`).join()}>
          <table className={table.table}>
            <thead>
              <tr>
                <th scope="col">Page</th>
                <th scope="col">Share set</th>
                <th scope="col">Share got</th>
                <th scope="col">People</th>
              </tr>
            </thead>
            <tbody>
              {figures.pages.map((page) => (
                <tr key={`${page.number} ${page.destination}`}>
                  <th scope="row">
                    {page.name && `${page.name}, `}
                    {addressOf(page.destination)}
                  </th>
                  <td>{page.shareSet === null ? '–' : percent(page.shareSet / 100)}</td>
                  <td>{page.shareGot === null ? '–' : percent(page.shareGot)}</td>
                  <td>{count(page.people)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <Text size="sm" c={figures.split === 'off' ? 'red' : 'dimmed'} mt={8}>
            {counted(links, 'link')}. {figures.says}
          </Text>
        </div>
      ))}
    </section>
  )
}
