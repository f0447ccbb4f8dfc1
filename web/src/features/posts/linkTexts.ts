interface Named {
  title: string
  shortUrl: string
}

/** The link as HTML, for web pages and mail editors. */
export function asHtml({ title, shortUrl }: Named) {
  const anchor = document.createElement('a')
  anchor.href = shortUrl
  anchor.textContent = title
  return anchor.outerHTML
}

/** The link as Markdown; characters that would end the text early are escaped. */
export const asMarkdown = ({ title, shortUrl }: Named) =>
  `[${title.replace(/[[\]\\]/g, '\\$&')}](${shortUrl})`
