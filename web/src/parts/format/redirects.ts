/** The redirect types of a link, as choices. The server says which there are. */
export const redirects = [
  { value: '302', label: '302 temporary' },
  { value: '301', label: '301 permanent' },
  { value: '307', label: '307 temporary, method kept' },
  { value: '308', label: '308 permanent, method kept' },
]
