import { Button, Group, Popover, Stack, Text, Textarea, TextInput } from '@mantine/core'
import { notifications } from '@mantine/notifications'
import { IconCopy, IconFileText } from '@tabler/icons-react'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { api, read, wordsOf } from '../../api/client'
import type { Link } from '../links/links'
import { takeFile } from '../../parts/files/takeFile'
import type { Wanted } from './codes'
import { drawPicture } from './drawPicture'
import { saveFile } from '../../parts/files/saveFile'

interface Props {
  link: Link
  wanted: Wanted
  svg: string | undefined
  isLetThrough: boolean
}

const pngWidth = 2048

/** Takes the code away: as a file, on the clipboard, or on a sheet for the notice board. */
export function DownloadCode({ link, wanted, svg, isLetThrough }: Props) {
  const take = useMutation({
    mutationFn: async (format: 'svg' | 'png' | 'pdf') =>
      saveFile(
        await read(
          api.POST('/api/v1/codes/file', {
            body: { ...wanted, format, size: format === 'png' ? pngWidth : undefined },
            parseAs: 'blob',
          }),
        ),
        `${link.slug}${wanted.code > 1 ? `-${wanted.code}` : ''}.${format}`,
      ),
  })
  return (
    <section aria-label="Download">
      <Group gap={5} justify="center">
        {(['svg', 'png', 'pdf'] as const).map((format) => (
          <Button
            key={format}
            size="xs"
            px={9}
            variant={format === 'svg' ? 'filled' : 'default'}
            disabled={!isLetThrough}
            aria-label={`Download ${format.toUpperCase()}`}
            loading={take.isPending && take.variables === format}
            onClick={() => take.mutate(format)}
          >
            {format.toUpperCase()}
          </Button>
        ))}
        <Button
          size="xs"
          px={9}
          variant="default"
          leftSection={<IconCopy size={16} aria-hidden />}
          disabled={!isLetThrough || !svg}
          aria-label="Copy picture"
          onClick={() => svg && void copyPicture(svg)}
        >
          Copy
        </Button>
        <Notice link={link} code={wanted.code} isLetThrough={isLetThrough} />
      </Group>
      {take.isError && (
        <Text role="alert" size="sm" c="var(--bad)" mt={6}>
          {wordsOf(take.error)}
        </Text>
      )}
    </section>
  )
}

/** A sheet with headline and text for a notice board. */
function Notice({ link, code, isLetThrough }: { link: Link; code: number; isLetThrough: boolean }) {
  const [headline, setHeadline] = useState(link.post?.title ?? link.title)
  const [words, setWords] = useState('')
  const query = new URLSearchParams({ headline, text: words, code: String(code) })
  return (
    <Popover position="top-start" width={340} trapFocus withinPortal>
      <Popover.Target>
        <Button
          size="xs"
          px={9}
          variant="default"
          disabled={!isLetThrough}
          leftSection={<IconFileText size={16} aria-hidden />}
        >
          Notice
        </Button>
      </Popover.Target>
      <Popover.Dropdown>
        <Stack gap="sm">
          <TextInput
            label="Headline"
            maxLength={80}
            value={headline}
            onChange={(event) => setHeadline(event.currentTarget.value)}
          />
          <Textarea
            label="Text"
            autosize
            minRows={3}
            maxLength={400}
            placeholder="Saturday from eight, at the dome. Bring a blanket."
            value={words}
            onChange={(event) => setWords(event.currentTarget.value)}
          />
          <Text size="sm" c="dimmed">
            An A4 page with the code in the link’s style and the short address for people who type it.
          </Text>
          <Button component="a" {...takeFile(`/api/v1/links/${link.id}/notice.pdf?${query}`)}>
            Create sheet
          </Button>
        </Stack>
      </Popover.Dropdown>
    </Popover>
  )
}

async function copyPicture(svg: string) {
  try {
    await navigator.clipboard.write([new ClipboardItem({ 'image/png': pictureOf(svg) })])
    notifications.show({ message: 'Picture copied', autoClose: 2000 })
  } catch {
    notifications.show({
      color: 'red',
      message: 'The browser didn’t allow copying. Download the PNG instead.',
    })
  }
}

async function pictureOf(svg: string): Promise<Blob> {
  const canvas = await drawPicture(svg, pngWidth)
  return new Promise((made) => canvas.toBlob((blob) => made(blob!), 'image/png'))
}
