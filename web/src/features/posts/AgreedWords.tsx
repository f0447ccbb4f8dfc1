import { useQuery } from '@tanstack/react-query'
import { agreedValuesQuery } from '../../api/vocabulary'
import type { Channel } from '../../api/vocabulary'

type Field = 'source' | 'medium' | 'term' | 'content'

/** The list that a field's input offers while typing: the agreed values come before anything typed anew. */
export const agreedList = (field: Field) => `agreed-${field}`

/** The agreed values, once for all inputs of the sheet that name one of these lists. */
export function AgreedWords({ channels }: { channels: Channel[] }) {
  const values = useQuery(agreedValuesQuery)
  const words: Record<Field, string[]> = {
    source: channels.map((c) => c.source),
    medium: channels.map((c) => c.medium),
    term: values.data?.filter((v) => v.field === 'term').map((v) => v.value) ?? [],
    content: values.data?.filter((v) => v.field === 'content').map((v) => v.value) ?? [],
  }
  return (Object.keys(words) as Field[]).map((field) => (
    <datalist key={field} id={agreedList(field)}>
      {[...new Set(words[field])].map((word) => (
        <option key={word} value={word} />
      ))}
    </datalist>
  ))
}
