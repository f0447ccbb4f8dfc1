const { CURSUS, CURSUS_TOKEN } = process.env

const answer = await fetch(`${CURSUS}/api/v1/posts`, {
  method: 'POST',
  headers: {
    'Authorization': `Bearer ${CURSUS_TOKEN}`,
    'Content-Type': 'application/json',
    'Idempotency-Key': crypto.randomUUID(),
  },
  body: JSON.stringify({
    title: 'Geminids night',
    destination: 'https://www.northmoor.example/geminids',
    campaign: 'winter-members',
    placements: [{ channel: 'perch' }, { channel: 'guildhall' }],
  }),
})
if (!answer.ok) throw new Error(await answer.text())
const post: { placements: { channel: string; link: { shortUrl: string } }[] } = await answer.json()
for (const { link } of post.placements) console.log(link.shortUrl)
