import { within } from '../../../api/address'
import { addressOf } from '../../../parts/format/addressText'
import { Button, Menu, Textarea } from '@mantine/core'
import { useClipboard } from '@mantine/hooks'
import { IconCheck, IconChevronDown, IconCopy, IconExternalLink, IconShare } from '@tabler/icons-react'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import type { Channel } from '../../../api/vocabulary'
import { copy } from '../../../parts/files/copy'
import { counted } from '../../../parts/format/numbers'
import { Signet } from '../../../parts/Signet'
import { CodeButton } from '../../codes/CodeButton'
import { LiveArrival } from '../../clicks/LiveArrival'
import { useCodeKey } from '../../codes/useCodeKey'
import { useBoundText } from '../../links/list/TimeNote'
import classes from './HandOut.module.css'
import { asHtml, asMarkdown } from './linkTexts'
import { placementName, type Placement } from './placement'

/** One placement of the hand-out: its short address, ways to copy it, and a text ready for the channel. */
export function HandOutRow({ placement, channel }: { placement: Placement; channel: Channel | undefined }) {
  const { link } = placement
  const clipboard = useClipboard({ timeout: 1500 })
  const name = placementName(placement, channel)
  const onKey = useCodeKey(link.id)
  const bound = useBoundText(link)
  return (
    <li className={classes.row} onKeyDown={onKey}>
      <div className={classes.head}>
        <Signet channel={channel} />
        <span className={classes.name}>{name}</span>
        <span className={classes.clicks}>{counted(link.clicks, 'click')}</span>
      </div>
      <div className={classes.address}>
        <Link to="/links/$linkId" params={{ linkId: link.id }} search={{}} className={classes.short}>
          {addressOf(link.shortUrl)}
        </Link>
        <span className={classes.leads} title={link.finalUrl}>
          goes to {addressOf(link.finalUrl)}
        </span>
        {bound && (
          <span>
            {link.state === 'scheduled' ? 'opens' : 'ended'} {bound}
          </span>
        )}
        <LiveArrival link={link.id} />
      </div>
      <div className={classes.actions}>
        <Button.Group>
          <Button
            size="sm"
            leftSection={
              clipboard.copied ? <IconCheck size={16} aria-hidden /> : <IconCopy size={16} aria-hidden />
            }
            aria-label={`Copy the address for ${name}`}
            onClick={() => clipboard.copy(link.shortUrl)}
          >
            {clipboard.copied ? 'Copied' : 'Copy'}
          </Button>
          <Menu position="bottom-end">
            <Menu.Target>
              <Button
                size="sm"
                px={8}
                aria-label={`More ways to copy for ${name}`}
                style={{ borderLeft: '1px solid var(--leaf)' }}
              >
                <IconChevronDown size={16} aria-hidden />
              </Button>
            </Menu.Target>
            <Menu.Dropdown>
              <Menu.Item onClick={() => void copy('HTML', asHtml(link))}>As HTML</Menu.Item>
              <Menu.Item onClick={() => void copy('Markdown', asMarkdown(link))}>As Markdown</Menu.Item>
              <Menu.Item onClick={() => void copy('Rich text', link.title, asHtml(link))}>
                As rich text
              </Menu.Item>
            </Menu.Dropdown>
          </Menu>
        </Button.Group>
        {'share' in navigator && (
          <Button
            size="sm"
            variant="default"
            leftSection={<IconShare size={16} aria-hidden />}
            aria-label={`Share ${name}`}
            // Somebody who closes the browser's share sheet has not failed at anything.
            onClick={() =>
              void navigator.share({ title: link.title, url: link.shortUrl }).catch(() => undefined)
            }
          >
            Share
          </Button>
        )}
        <Button
          size="sm"
          variant="default"
          component="a"
          href={within(`/api/v1/links/${link.id}/open`)}
          target="_blank"
          rel="noreferrer"
          leftSection={<IconExternalLink size={16} aria-hidden />}
          aria-label={`Open without counting: ${name}`}
        >
          Open without counting
        </Button>
        <CodeButton link={link.id} name={name} />
      </div>
      <ReadyText title={link.title} shortUrl={link.shortUrl} channel={channel} name={name} />
    </li>
  )
}

/** Characters of a text as the channel counts them: an address may count as a fixed number there, whatever its length. */
function lengthOf(text: string, address: string, countsAs: number | null | undefined) {
  const addresses = countsAs == null ? 0 : text.split(address).length - 1
  return [...text].length + addresses * ((countsAs ?? 0) - [...address].length)
}

/** A text to paste into the channel, with the characters that are left there. */
function ReadyText(props: { title: string; shortUrl: string; channel: Channel | undefined; name: string }) {
  const [text, setText] = useState(`${props.title} ${props.shortUrl}`)
  const limit = props.channel?.textLimit
  const length = lengthOf(text, props.shortUrl, props.channel?.addressLength)
  const isOver = limit != null && length > limit
  return (
    <div className={classes.ready}>
      <Textarea
        aria-label={`Text for ${props.name}`}
        autosize
        size="sm"
        value={text}
        onChange={(event) => setText(event.currentTarget.value)}
        error={isOver ? `${length - limit} characters too long for ${props.channel?.name}` : undefined}
      />
      <div className={classes.tools}>
        <span>{limit == null ? `${length} characters` : `${length} of ${limit}`}</span>
        <Button
          size="compact-sm"
          variant="subtle"
          onClick={() => void copy('Text', text)}
          aria-label={`Copy the text for ${props.name}`}
        >
          Copy text
        </Button>
      </div>
    </div>
  )
}
