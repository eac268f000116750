/** What the bench runs in the page. As text: the compiler of the bench must not touch it. */

/** Waits until a reading of the page changes after a deed, to the end of the frame in which it does. */
export const TIMED = `// A message is heard when the frame that is being made has been drawn.
window.painted = (f) => { const c = new MessageChannel(); c.port1.onmessage = f; c.port2.postMessage(0); };
window.timed = (reading, deed) => new Promise((done, failed) => {
  setTimeout(() => failed(new Error('nothing changed on the screen')), 20000);
  performance.clearMeasures('yellowhammer');
  const before = reading();
  const start = performance.now();
  const look = () => (reading() !== before ? painted(() => done({ ms: performance.now() - start, parts: performance.getEntriesByName('yellowhammer').map((e) => ({ ...e.detail, whole: e.duration }))[0] ?? null })) : requestAnimationFrame(look));
  deed();
  requestAnimationFrame(look);
});
window.press = (key, more) => document.querySelector('.plan-grid').dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, ...more }));
window.frames = (n, deed) => new Promise((done) => {
  const gaps = [];
  let last = performance.now();
  const step = () => {
    const now = performance.now();
    gaps.push(now - last);
    last = now;
    deed();
    if (gaps.length < n) requestAnimationFrame(step);
    else done(gaps.slice(5));
  };
  requestAnimationFrame(step);
});
// Always the same: four hundred rows made, laid out and taken away.
window.fixedWork = () => {
  const start = performance.now();
  const box = document.createElement('div');
  box.style.cssText = 'position:fixed;left:-3000px;width:900px';
  for (let i = 0; i < 400; i++) {
    const row = document.createElement('div');
    for (const text of ['Row ' + i, '10d', '2 Mar 26']) row.appendChild(document.createElement('span')).textContent = text;
    box.append(row);
  }
  document.body.append(box);
  box.getBoundingClientRect();
  box.remove();
  return performance.now() - start;
};
// Thirty rows of twelve cells with a bar and a line each, made anew: what a page that does nothing else needs for a frame.
window.bareRows = () => {
  const n = (window.bareAt = (window.bareAt ?? 0) + 1);
  let html = '';
  for (let i = 0; i < 30; i++) {
    html += '<div style="height:26px;display:flex;font:13px sans-serif">';
    for (let k = 0; k < 12; k++) html += '<span style="width:60px;flex:none;overflow:hidden;white-space:nowrap">' + k + ' ' + (n * 30 + i) + '</span>';
    html += '<svg width="500" height="26"><rect x="' + (n % 50) * 3 + '" y="6" width="80" height="12" fill="#468"/><path d="M0 2h' + n % 300 + 'v20" stroke="#888" fill="none"/></svg></div>';
  }
  document.body.innerHTML = html;
};
// An edit of a page without an application: bare rows, a worker's three million additions (some 15 ms, what the passes of 10,000 take there), bare rows.
window.bareWorker = () => new Worker(URL.createObjectURL(new Blob(['const a = new Int32Array(100000); onmessage = () => { let s = 0; for (let r = 0; r < 30; r++) for (let i = 0; i < a.length; i++) s = (s + a[i] + r) | 0; postMessage(s); };'])));
window.bareEdit = (worker) => new Promise((done) => {
  const start = performance.now();
  worker.onmessage = () => requestAnimationFrame(() => (bareRows(), painted(() => done(performance.now() - start))));
  bareRows();
  worker.postMessage(0);
});
window.finishOf = () => document.querySelector('.sheet .row:not(.wbs) .cell[data-column=finish]').innerText;
window.counts = () => document.querySelector('.header-counts').innerText;`;

/** Notes when figures and bars are drawn, in milliseconds from the beginning of the navigation. */
export const OPENED = `(() => {
  const look = () => {
    if (!document.querySelector('.figure-value') || !document.querySelector('.tl-bar')) return requestAnimationFrame(look);
    const c = new MessageChannel();
    c.port1.onmessage = () => (window.opened = performance.now());
    c.port2.postMessage(0);
  };
  requestAnimationFrame(look);
})()`;
