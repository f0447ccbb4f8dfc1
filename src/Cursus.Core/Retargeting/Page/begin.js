// The handoff page's script, in parts: this one always, "scripts" where a network runs its own, "question" where visitors are asked, else "fire".
// The same for every link, so that the policy can name it by its hash: all that differs stands in the block of data.
{
const d = JSON.parse(document.getElementById('d').textContent);
const tell = (words) => navigator.sendBeacon(d.path, new URLSearchParams({ slug: d.slug, ticket: d.ticket, ...words }));
const goOn = () => location.replace(d.to);
// How each kind is fired: calls ok when its network has answered, no when it won't.
const ways = {
image(p, ok, no) {
const i = new Image();
i.referrerPolicy = 'unsafe-url';
i.onload = ok;
i.onerror = no;
i.src = p.address;
},
beacon(p, ok, no) {
(navigator.sendBeacon(p.address) ? ok : no)();
},
};
const fire = async () => {
const came = d.pixels.map(() => 0);
const all = d.pixels.map((p, i) => new Promise((settle) => {
try { ways[p.kind](p, () => { came[i] = 1; settle(); }, settle); } catch { settle(); }
}));
await Promise.race([Promise.all(all), new Promise((late) => setTimeout(late, d.wait))]);
tell({ came: came.join('') });
goOn();
};
