import { useNavigate } from '@tanstack/react-router'

/** Opens the designer for a link over whatever is shown; the address says so, and the way back closes it. */
export function useOpenCode() {
  const navigate = useNavigate()
  return (link: string | undefined) =>
    void navigate({ to: '.', search: (search: object) => ({ ...search, qr: link }), resetScroll: false })
}
