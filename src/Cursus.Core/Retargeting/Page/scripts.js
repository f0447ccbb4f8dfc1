ways.script = ways.container = (p, ok, no) => {
const w = window;
const q = p.queue;
const isList = p.kind === 'container';
// A name that the browser knows itself is left alone.
if (q && !(q in w)) {
w[q] = isList ? [] : function () { (w[q].waiting ||= []).push(arguments); };
w[q].ours = 1;
}
if (q && w[q].ours) p.calls.forEach((c) => isList ? w[q].push(c) : w[q](...c));
const s = document.createElement('script');
s.referrerPolicy = 'unsafe-url';
s.onerror = no;
// The script alone tells nobody anything: what it asks for next does.
s.onload = () => p.loads ? ok() : new PerformanceObserver((seen) => {
if (seen.getEntries().some((e) => e.name !== s.src && p.hosts.includes(new URL(e.name).origin))) ok();
}).observe({ type: 'resource', buffered: true });
s.src = p.address;
document.head.append(s);
};
