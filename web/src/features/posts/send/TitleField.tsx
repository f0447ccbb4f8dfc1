import { TextInput } from '@mantine/core'
import classes from './SendSheet.module.css'

interface Props {
  value: string
  /** What the post is called where nothing is typed; empty where nothing is proposed. */
  proposed: string
  /** Whether the page itself proposed it; else its address did. */
  isFromPage: boolean
  error: string | undefined
  onChange: (value: string) => void
}

/** What colleagues read of a post, with what it is called by itself. */
export function TitleField({ value, proposed, isFromPage, error, onChange }: Props) {
  const isProposed = value === '' && proposed !== ''
  return (
    <div className={classes.title}>
      <TextInput
        label="Title"
        size="sm"
        placeholder={proposed || 'For you and your colleagues only'}
        rightSectionWidth={130}
        rightSectionPointerEvents="none"
        rightSection={
          isProposed ? (
            <span className={classes.look}>{isFromPage ? 'from the page' : 'from the address'}</span>
          ) : null
        }
        value={value}
        onChange={(event) => onChange(event.currentTarget.value)}
        error={isProposed ? undefined : error}
      />
    </div>
  )
}
