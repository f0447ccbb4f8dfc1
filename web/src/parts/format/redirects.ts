/** The redirect types of a link, as choices. The server says which there are. */
export const redirects = [
  { value: '302', label: '302 temporary' },
  { value: '301', label: '301 permanent' },
  { value: '307', label: '307 temporary, method kept' },
  { value: '308', label: '308 permanent, method kept' },
]

/** What happens to parameters that a visitor brings, as choices. */
export const passings = [
  { value: 'off', label: 'Ignore them' },
  { value: 'link-wins', label: 'Pass on; the link’s own win' },
  { value: 'visitor-wins', label: 'Pass on; the visitor’s win' },
]

/** Whether a page learns where its visitors came from, as choices. */
export const referrers = [
  { value: 'keep', label: 'Send as usual' },
  { value: 'hide', label: 'Hide' },
  { value: 'hide-by-page', label: 'Hide, through a page' },
]

/** What is on or off about a link, as choices. */
export const optionSwitches = [
  { key: 'hideFromSearch', label: 'Hide from search engines' },
  { key: 'nofollow', label: 'HTML: nofollow' },
  { key: 'sponsored', label: 'HTML: sponsored' },
  { key: 'newTab', label: 'HTML: open in a new tab' },
] as const
