/** What copying leaves around an address: quotes, brackets, the punctuation of the sentence it stood in. */
const around = /^[\s<("'“‘«[]+|[\s>)"'”’»\].,;:!?]+$/g

/** Whether a text is one web address, as far as can be told at a glance; the server has the last word. */
export function looksLikeAddress(text: string): boolean {
  const trimmed = text.replace(around, '')
  return /^(https?:\/\/)?[^\s/@]+\.[^\s/@.]{2,}(:\d+)?([/?#]\S*)?$/i.test(trimmed) && !/\s/.test(trimmed)
}

/** Whether a text is a list of addresses, one a line, perhaps with more cells beside them. */
export function looksLikeList(text: string): boolean {
  const lines = text.split('\n').filter((line) => line.trim() !== '')
  return lines.length > 1 && lines.every((line) => looksLikeAddress(line.split('\t', 1)[0]!))
}
