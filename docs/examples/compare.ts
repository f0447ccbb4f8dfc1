const { CURSUS, CURSUS_TOKEN } = process.env

const query = new URLSearchParams({ by: 'channel', period: 'last-28' })
const answer = await fetch(`${CURSUS}/api/v1/reports/breakdown?${query}`, {
  headers: { Authorization: `Bearer ${CURSUS_TOKEN}` },
})
if (!answer.ok) throw new Error(await answer.text())
const report: { rows: { label: string; clicks: number }[] } = await answer.json()
for (const row of report.rows) console.log(`${row.label}: ${row.clicks}`)
