import { addressOf } from '../../parts/format/addressText'
import { Select, Stack, Text } from '@mantine/core'
import { useDebouncedValue } from '@mantine/hooks'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Failed, Loading } from '../../parts/States'
import { mayEdit, useSession } from '../access/session'
import { linkQuery, type Link } from '../links/links'
import { CodeList } from './CodeList'
import { CodePicture } from './CodePicture'
import classes from './Codes.module.css'
import {
  checkQuery,
  codesOfLink,
  plain,
  placesQuery,
  previewQuery,
  stylesQuery,
  type CodeStyle,
  type SavedStyle,
} from './codes'
import { Findings } from './Findings'
import { StyleBar } from './StyleBar'
import { StyleFields } from './StyleFields'
import { DownloadCode } from './DownloadCode'
import { useDecoded } from './useDecoded'

const pause = 250

/** A link's QR code: its look with live preview, whether it scans, and ways to take it away. */
export function CodeDesigner({ linkId }: { linkId: string }) {
  const link = useQuery(linkQuery(linkId))
  const codes = useQuery(codesOfLink(linkId))
  const styles = useQuery(stylesQuery)
  for (const asked of [link, codes, styles])
    if (asked.isError) return <Failed error={asked.error} onRetry={() => void asked.refetch()} />
  if (!link.data || !codes.data || !styles.data) return <Loading />
  return <Designer link={link.data} styles={styles.data} ownStyle={codes.data.styleId ?? undefined} />
}

interface Props {
  link: Link
  styles: SavedStyle[]
  ownStyle: string | undefined
}

function Designer({ link, styles, ownStyle }: Props) {
  const inUse = styles.find((s) => s.id === ownStyle) ?? styles.find((s) => s.isDefault)
  const isEditor = mayEdit(useSession())
  const [chosen, setChosen] = useState(inUse)
  const [style, setStyle] = useState<CodeStyle>(inUse?.style ?? plain)
  const [code, setCode] = useState(1)
  const [place, setPlace] = useState('a4-poster')
  const places = useQuery(placesQuery)
  const wanted = { link: link.id, code, style, place }
  const [settled] = useDebouncedValue(wanted, pause)
  const preview = useQuery(previewQuery(wanted))
  const check = useQuery(checkQuery(settled))
  const decoded = useDecoded(preview.data?.svg)
  const isRead = decoded === undefined ? undefined : decoded === preview.data?.text
  const isJudged = settled.style === style && !check.isPlaceholderData && check.data !== undefined
  const served = places.data?.find((p) => p.key === place)
  return (
    <div className={classes.designer}>
      <div className={classes.shown}>
        <CodePicture svg={preview.data?.svg} address={preview.data?.address ?? link.shortUrl} />
        <Text size="sm" fw={600} ta="center" style={{ overflowWrap: 'anywhere' }}>
          {preview.data && addressOf(preview.data.address)}
        </Text>
        {preview.data && (
          <Text size="sm" c="dimmed" ta="center">
            {preview.data.side} × {preview.data.side} modules, correction {preview.data.level.toUpperCase()}
            {preview.data.modulesSaved > 0 && `; capital letters save ${preview.data.modulesSaved} modules`}
          </Text>
        )}
        <DownloadCode
          link={link}
          wanted={wanted}
          svg={preview.data?.svg}
          isLetThrough={isJudged && check.data.isLetThrough}
        />
        <Select
          label="Viewing distance"
          data={places.data?.map((p) => ({ value: p.key, label: `${p.name}, ${p.widthMm} mm` })) ?? []}
          value={place}
          allowDeselect={false}
          onChange={(value) => setPlace(value!)}
          description={
            served && preview.data?.moduleMm
              ? `Scans from up to ${served.distanceMetres} m; a module is ${preview.data.moduleMm} mm wide.`
              : undefined
          }
        />
        {preview.isError && <Failed error={preview.error} />}
        {check.isError && <Failed error={check.error} onRetry={() => void check.refetch()} />}
        <Findings
          judgement={check.data}
          isPending={!isJudged}
          isRead={isRead}
          findings={preview.data?.findings ?? []}
          onFix={setStyle}
        />
      </div>
      <Stack gap="lg">
        <StyleBar
          link={link}
          styles={styles}
          chosen={chosen}
          inUse={inUse}
          style={style}
          isChanged={!sameStyle(chosen?.style ?? plain, style)}
          // Both readers have to agree before a style can be saved.
          maySave={isEditor && isJudged && check.data.isLetThrough && isRead === true}
          isEditor={isEditor}
          onChoose={(saved) => {
            setChosen(saved)
            setStyle(saved?.style ?? plain)
          }}
        />
        <StyleFields style={{ ...plain, ...style }} mayUpload={isEditor} onChange={setStyle} />
        <CodeList link={link} code={code} onChoose={setCode} isEditor={isEditor} />
      </Stack>
    </div>
  )
}

const sameStyle = (one: CodeStyle, other: CodeStyle) =>
  JSON.stringify(Object.entries({ ...plain, ...one }).sort()) ===
  JSON.stringify(Object.entries({ ...plain, ...other }).sort())
