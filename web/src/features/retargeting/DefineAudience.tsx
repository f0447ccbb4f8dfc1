import { Button, Group, Select, Text } from '@mantine/core'
import { IconCopy } from '@tabler/icons-react'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useNavigate, useSearch } from '@tanstack/react-router'
import { api, read } from '../../api/client'
import { vocabulary } from '../../api/vocabulary'
import { copy } from '../../parts/files/copy'
import { counted } from '../../parts/format/numbers'
import { Failed, Loading } from '../../parts/States'
import classes from './Audiences.module.css'
import type { Pixel } from './pixels'

const shown = 3

/** Gives the text to paste in the ad network so that it gathers the visitors of a campaign, a post, a link, or of all links of the pixel. */
export function DefineAudience({ pixel }: { pixel: Pixel }) {
  const of = useSearch({ from: '/members/audiences/$pixelId' })
  const navigate = useNavigate()
  const campaigns = useQuery(vocabulary.campaigns)
  const definition = useQuery({
    queryKey: ['pixels', pixel.id, 'definition', of, pixel.campaigns, pixel.channels, pixel.domains],
    queryFn: () =>
      read(
        api.GET('/api/v1/pixels/{id}/definition', {
          params: { path: { id: pixel.id }, query: of },
        }),
      ),
    placeholderData: keepPreviousData,
  })
  return (
    <section className={classes.leaf} aria-label="Define an audience">
      <h2>Define an audience</h2>
      <Select
        label="Visitors of"
        clearable
        searchable
        placeholder={of.link ? 'one link' : of.post ? 'one post' : 'everything it fires for'}
        data={campaigns.data?.map((c) => ({ value: c.key, label: c.name })) ?? []}
        value={of.campaign ?? null}
        onChange={(campaign) =>
          void navigate({
            to: '/audiences/$pixelId',
            params: { pixelId: pixel.id },
            search: { campaign: campaign ?? undefined },
            replace: true,
            resetScroll: false,
          })
        }
        mb="sm"
      />
      {definition.isError ? (
        <Failed error={definition.error} onRetry={() => void definition.refetch()} />
      ) : !definition.data ? (
        <Loading rows={2} />
      ) : definition.data.contains.length === 0 ? (
        <Text size="sm" c="dimmed">
          It has no links yet.
        </Text>
      ) : (
        <>
          <Text size="sm" c="dimmed" mb={6}>
            In {pixel.networkName}, name it “{definition.data.name}” and gather visitors whose address
            contains {definition.data.contains.length > 1 ? 'any of these' : 'this'}:
          </Text>
          {definition.data.contains.slice(0, shown).map((text) => (
            <code key={text} className={classes.code}>
              {text}
            </code>
          ))}
          {definition.data.contains.length > shown && (
            <Text size="sm" c="dimmed" mb={6}>
              and {definition.data.contains.length - shown} more. If the slugs of the next posts all begin
              with {of.campaign ? <code>{of.campaign}-</code> : 'the campaign’s name'}, one line is enough.
            </Text>
          )}
          <Group gap={8}>
            <Button
              size="sm"
              variant="default"
              leftSection={<IconCopy size={15} aria-hidden />}
              onClick={() =>
                void copy(
                  counted(definition.data.contains.length, 'address', 'addresses'),
                  definition.data.contains.join('\n'),
                )
              }
            >
              Copy {definition.data.contains.length > 1 ? `all ${definition.data.contains.length}` : 'it'}
            </Button>
            <Button size="sm" variant="subtle" onClick={() => void copy('The name', definition.data.name)}>
              Copy the name
            </Button>
          </Group>
          {definition.data.alsoFits.length > 0 && (
            <Text size="sm" c="var(--caution)" mt="sm">
              This also matches {definition.data.alsoFits.join(', ')}.
            </Text>
          )}
          {definition.data.linksWithoutPixel > 0 && (
            <Text size="sm" c="var(--caution)" mt="sm">
              {counted(definition.data.linksWithoutPixel, 'link')} of {definition.data.links} don’t fire this
              pixel, so their visitors are missing.
            </Text>
          )}
        </>
      )}
    </section>
  )
}
