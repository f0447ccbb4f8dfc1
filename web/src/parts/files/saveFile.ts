/** Hands a file to the person, as a download. */
export function saveFile(file: unknown, name: string) {
  const anchor = document.createElement('a')
  anchor.href = URL.createObjectURL(file as Blob)
  anchor.download = name
  anchor.click()
  URL.revokeObjectURL(anchor.href)
}
