import {
  Button,
  Drawer,
  Group,
  NumberInput,
  SegmentedControl,
  Select,
  Stack,
  Text,
  Title,
} from '@mantine/core'
import { IconDownload, IconQrcode } from '@tabler/icons-react'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read, wordsOf } from '../../api/client'
import { counted } from '../../parts/format/numbers'
import { mayEdit, useSession } from '../access/session'
import { placesQuery, stylesChanged, stylesQuery } from './codes'
import { saveFile } from '../../parts/files/saveFile'

interface Props {
  /** What the links are, such as a post's title. */
  of: string
  /** Finds the links' ids when they are needed. */
  findLinks: () => Promise<string[]>
  count: number
  size?: string
}

const most = 500

/** The QR codes of many links: one style for all, a ZIP of files, or labels to print. */
export function BulkCodes({ of, findLinks, count, size = 'sm' }: Props) {
  const [isOpen, setIsOpen] = useState(false)
  return (
    <>
      <Button
        size={size}
        variant="default"
        disabled={count === 0}
        leftSection={<IconQrcode size={16} aria-hidden />}
        onClick={() => setIsOpen(true)}
      >
        QR codes
      </Button>
      <Drawer opened={isOpen} onClose={() => setIsOpen(false)} position="right" size={460} title="QR codes">
        <Text c="dimmed" size="sm" mb="md">
          {counted(count, 'link')} of {of}. {count > most && `${most} at most. Narrow the list.`}
        </Text>
        {count <= most && <Choices findLinks={findLinks} count={count} />}
      </Drawer>
    </>
  )
}

function Choices({ findLinks, count }: Pick<Props, 'findLinks' | 'count'>) {
  const isEditor = mayEdit(useSession())
  const queries = useQueryClient()
  const styles = useQuery(stylesQuery)
  const places = useQuery(placesQuery)
  const [style, setStyle] = useState<string | null>(null)
  const [format, setFormat] = useState<'svg' | 'png' | 'pdf'>('svg')
  const [place, setPlace] = useState('a4-poster')
  const [grid, setGrid] = useState({ columns: 3, rows: 5 })
  const apply = useMutation({
    mutationFn: async () =>
      read(api.POST('/api/v1/codes/style', { body: { style, links: await findLinks() } })),
    onSuccess: () => stylesChanged(queries),
  })
  const files = useMutation({
    mutationFn: async () =>
      saveFile(
        await read(
          api.POST('/api/v1/codes/files', {
            body: { links: await findLinks(), format, place },
            parseAs: 'blob',
          }),
        ),
        'QR-codes.zip',
      ),
  })
  const labels = useMutation({
    mutationFn: async () =>
      saveFile(
        await read(
          api.POST('/api/v1/codes/labels', { body: { links: await findLinks(), ...grid }, parseAs: 'blob' }),
        ),
        'QR-labels.pdf',
      ),
  })
  return (
    <Stack gap="xl">
      {isEditor && (
        <section aria-label="One style for all">
          <Title order={3} size={16} mb={8}>
            One style for all
          </Title>
          <Group gap={8} align="end">
            <Select
              aria-label="Style"
              placeholder="The workspace’s default"
              clearable
              data={styles.data?.map((s) => ({ value: s.id, label: s.name })) ?? []}
              value={style}
              onChange={setStyle}
              style={{ flex: 1 }}
            />
            <Button loading={apply.isPending} onClick={() => apply.mutate()}>
              Apply to {counted(count, 'link')}
            </Button>
          </Group>
          <Outcome
            failed={apply.error}
            done={apply.data && `Applied to ${counted(apply.data.links, 'link')}.`}
          />
        </section>
      )}
      <section aria-label="Files">
        <Title order={3} size={16} mb={8}>
          Files, named after post and channel
        </Title>
        <Group gap={8} align="end">
          <SegmentedControl
            aria-label="Format"
            value={format}
            onChange={(value) => setFormat(value)}
            data={[
              { value: 'svg', label: 'SVG' },
              { value: 'png', label: 'PNG' },
              { value: 'pdf', label: 'PDF' },
            ]}
          />
          <Select
            aria-label="Viewing distance"
            data={places.data?.map((p) => ({ value: p.key, label: p.name })) ?? []}
            value={place}
            allowDeselect={false}
            onChange={(value) => setPlace(value!)}
            style={{ flex: 1 }}
          />
        </Group>
        <Button
          mt={8}
          leftSection={<IconDownload size={16} aria-hidden />}
          loading={files.isPending}
          onClick={() => files.mutate()}
        >
          Download ZIP
        </Button>
        <Outcome failed={files.error} />
      </section>
      <section aria-label="Labels">
        <Title order={3} size={16} mb={8}>
          Labels on A4 pages
        </Title>
        <Group gap={8} align="end">
          {(['columns', 'rows'] as const).map((part) => (
            <NumberInput
              key={part}
              label={part === 'columns' ? 'Side by side' : 'Below each other'}
              w={140}
              min={1}
              max={part === 'columns' ? 6 : 12}
              value={grid[part]}
              onChange={(value) => typeof value === 'number' && setGrid({ ...grid, [part]: value })}
            />
          ))}
        </Group>
        <Button
          mt={8}
          variant="default"
          leftSection={<IconDownload size={16} aria-hidden />}
          loading={labels.isPending}
          onClick={() => labels.mutate()}
        >
          Download labels
        </Button>
        <Outcome failed={labels.error} />
      </section>
    </Stack>
  )
}

function Outcome({ failed, done }: { failed: Error | null; done?: string | undefined }) {
  return (
    <>
      {failed && (
        <Text role="alert" size="sm" c="var(--bad)" mt={6}>
          {wordsOf(failed)}
        </Text>
      )}
      {done && !failed && (
        <Text role="status" size="sm" mt={6}>
          {done}
        </Text>
      )}
    </>
  )
}
