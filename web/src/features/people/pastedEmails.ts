/** The addresses in what was typed or pasted: parted by lines, commas, semicolons or spaces, with or without names and angle brackets. What has no
 * @ is kept where nothing else is there, so that the server can say what is wrong with it. */
export function pastedEmails(text: string): string[] {
  const parts = text.split(/[\s,;<>]+/).filter(Boolean)
  const emails = parts
    .filter((part) => part.includes('@'))
    .map((part) => part.replace(/^["'(]+|["').]+$/g, ''))
  return emails.length > 0 ? emails : parts.slice(0, 1)
}
