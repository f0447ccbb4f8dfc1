import { ActionIcon, Tooltip } from '@mantine/core'
import { IconPlus, IconX } from '@tabler/icons-react'
import { agreedList } from '../../AgreedWords'
import type { RowProps } from './rowProps'
import classes from './PlacementRows.module.css'

/** What a row is counted under: source, medium and variant. */
export function WordCells(props: RowProps & { name: string }) {
  const { row, channel, name, onChange, onAddVariant, onRemove } = props
  return (
    <>
      <td>
        <Word
          label={`Source for ${name}`}
          value={row.source}
          list={agreedList('source')}
          agreed={channel.source}
          isOn={row.isOn}
          onChange={(source) => onChange({ source })}
        />
      </td>
      <td>
        <Word
          label={`Medium for ${name}`}
          value={row.medium}
          list={agreedList('medium')}
          agreed={channel.medium}
          isOn={row.isOn}
          onChange={(medium) => onChange({ medium })}
        />
      </td>
      <td>
        <div className={classes.variant}>
          <Word
            label={`Variant for ${name}`}
            value={row.variant}
            list={agreedList('content')}
            agreed="none"
            isOn={row.isOn}
            onChange={(variant) => onChange({ variant })}
          />
          {onRemove ? (
            <Tooltip label="Remove this row">
              <ActionIcon
                variant="subtle"
                size={26}
                color="gray"
                aria-label={`Remove ${name}`}
                onClick={onRemove}
              >
                <IconX size={14} />
              </ActionIcon>
            </Tooltip>
          ) : (
            <Tooltip label={`Add a variant for ${channel.name}`}>
              <ActionIcon
                variant="subtle"
                size={26}
                color="gray"
                aria-label={`Add a variant for ${channel.name}`}
                onClick={onAddVariant}
              >
                <IconPlus size={14} />
              </ActionIcon>
            </Tooltip>
          )}
        </div>
      </td>
    </>
  )
}

/** A word that is normally the channel's own and only shown; typing over it changes it for this row. */
function Word(props: {
  label: string
  value: string
  agreed: string
  /** Id of the list of agreed values. */
  list: string
  isOn: boolean
  onChange: (value: string) => void
}) {
  return (
    <input
      className={classes.word}
      aria-label={props.label}
      placeholder={props.agreed}
      list={props.list}
      value={props.value}
      disabled={!props.isOn}
      onChange={(event) => props.onChange(event.currentTarget.value)}
    />
  )
}
