/** The name that a `Content-Disposition` header gives a file, by RFC 6266: the extended form, in any letters, before the plain one. */
export function fileName(header: string): string | undefined {
  const extended = /filename\*\s*=\s*UTF-8''([^;]+)/i.exec(header)?.[1]
  if (extended) return decodeURIComponent(extended)
  return /filename\s*=\s*(?:"([^"]*)"|([^;]+))/i.exec(header)?.slice(1).find(Boolean)
}
