import { Checkbox } from '@mantine/core'
import { useState } from 'react'
import { Signet } from '../../../../parts/Signet'
import { FinalAddress } from './FinalAddress'
import classes from './PlacementRows.module.css'
import { RowOptionsButton, RowOptionsPanel, TermAndContent } from './RowOptions'
import { SlugField } from './SlugField'
import type { RowProps } from './rowProps'
import { WordCells } from './WordCells'

/** One channel of the post, with a second line for options that are open or words that are set. */
export function PlacementRow(props: RowProps) {
  const { row, channel, preview, domain, address, onChange, onRemove } = props
  const [isOpen, setIsOpen] = useState(false)
  const close = () => {
    setIsOpen(false)
    document.getElementById(`${row.id}-options`)?.focus()
  }
  const hasWords = row.term.trim() !== '' || row.content.trim() !== ''
  const isRandom = (row.own.slugKind ?? props.all.slugKind) === 'random'
  const name = onRemove ? `${channel.name}, second variant` : channel.name
  return (
    <>
      <tr className={row.isOn ? undefined : classes.off}>
        <td className={classes.tick}>
          <Checkbox
            aria-label={`Include ${name}`}
            checked={row.isOn}
            onChange={(event) => onChange({ isOn: event.currentTarget.checked })}
          />
        </td>
        <td>
          <label className={classes.channel}>
            <Signet channel={channel} />
            <span>{channel.name}</span>
          </label>
        </td>
        <WordCells {...props} name={name} />
        <td>
          {!row.isOn && <span className={classes.none}>No link. Tick to include.</span>}
          {row.isOn && (
            <SlugField
              row={row}
              name={name}
              domain={domain}
              isRandom={isRandom}
              preview={preview}
              onChange={onChange}
            />
          )}
        </td>
        <td className={classes.leads}>
          {row.isOn && address && <FinalAddress url={preview?.finalUrl ?? ''} address={address} />}
          {row.isOn && !address && <span className={classes.none}>{props.missing}</span>}
        </td>
        <td className={classes.more}>
          {row.isOn && (
            <RowOptionsButton name={name} row={row} isOpen={isOpen} onToggle={() => setIsOpen(!isOpen)} />
          )}
        </td>
      </tr>
      {row.isOn && (isOpen || hasWords) && (
        <tr className={classes.below}>
          <td colSpan={8}>
            {isOpen ? (
              <RowOptionsPanel
                name={name}
                row={row}
                all={props.all}
                destination={props.destination}
                domains={props.domains}
                onChange={onChange}
                onClose={close}
              />
            ) : (
              <div className={classes.words}>
                <TermAndContent name={name} row={row} onChange={onChange} />
              </div>
            )}
          </td>
        </tr>
      )}
    </>
  )
}
