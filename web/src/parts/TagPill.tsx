import { Pill, TagsInput, type TagsInputProps } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import type { CSSProperties } from 'react'
import { vocabulary } from '../api/vocabulary'
import classes from './TagPill.module.css'

/** Colours of the workspace's tags by name; empty while loading, and for tags that are new. */
function useTagColors(): ReadonlyMap<string, number> {
  const { data } = useQuery({ ...vocabulary.tags, select: byName })
  return data ?? none
}

const none: ReadonlyMap<string, number> = new Map()
const byName = (tags: Array<{ name: string; color: number }>) => new Map(tags.map((t) => [t.name, t.color]))

const inked = (color: number | undefined) =>
  ({
    '--tag': color === undefined ? 'var(--mantine-color-dimmed)' : `var(--channel-${color})`,
  }) as CSSProperties

/** Tags of a link, each with its colour beside its name. */
export function TagPills({ names }: { names: readonly string[] }) {
  const colors = useTagColors()
  return names.map((name) => (
    <span key={name} className={`${classes.tag} ${classes.plain}`} style={inked(colors.get(name))}>
      {name}
    </span>
  ))
}

/** Chooses tags by name; a name that is new becomes a tag when the link is saved. */
export function TagsField(props: TagsInputProps) {
  const colors = useTagColors()
  return (
    <TagsInput
      data={[...colors.keys()]}
      placeholder={props.value?.length ? '' : '+ tag'}
      classNames={{ inputField: classes.input }}
      renderPill={({ option, onRemove }) => {
        const name = String(option.value)
        return (
          <Pill
            withRemoveButton
            onRemove={onRemove}
            className={classes.tag}
            style={inked(colors.get(name))}
            removeButtonProps={{ 'aria-label': `Remove tag ${name}` }}
          >
            {name}
          </Pill>
        )
      }}
      {...props}
    />
  )
}
