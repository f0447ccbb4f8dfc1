import { Button } from '@mantine/core'
import { IconAlertTriangle } from '@tabler/icons-react'
import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { counted } from '../../parts/format/numbers'
import { checkSummaryQuery } from './checks'

/** Says above the links that pages behind them need care; nothing where all is well. */
export function AttentionNote() {
  const summary = useQuery(checkSummaryQuery)
  if (!summary.data) return null
  const { needCare, certificates } = summary.data
  if (needCare + certificates.length === 0) return null
  return (
    <Button
      variant="subtle"
      size="compact-sm"
      leftSection={<IconAlertTriangle size={15} color="var(--bad)" aria-hidden />}
      renderRoot={(props) => <Link to="/needs-attention" {...props} />}
    >
      {needCare > 0
        ? `${counted(needCare, 'page needs', 'pages need')} attention`
        : counted(certificates.length, 'certificate ends', 'certificates end')}
    </Button>
  )
}
