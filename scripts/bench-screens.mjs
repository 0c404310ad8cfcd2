// Measures what the screens promise, in Chromium with its processor slowed four times: node scripts/bench-screens.mjs <address>
// Prints the table, and ends with an error where a figure misses its aim.
import { chromium } from '@playwright/test';

const base = process.argv[2];
const slowed = 4;
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu'],
});

const aims = [
  ['largest element painted, cold', 'ms', 1800],
  ['largest element painted, warm', 'ms', 600],
  ['blocked while it opens, warm', 'ms', 200],
  ['stage change, warm, the slowest', 'ms', 200],
  ['touch to paint, the slowest', 'ms', 100],
  ['figure entered to the next line', 'ms', 150],
  ['finding saved', 'ms', 300],
  ['seen in another tab after it was saved', 'ms', 2000],
  ['layout shift, the worst page', '', 0.02],
  ['requests for a figure', '', 1],
  ['received for a figure', 'kB', 5],
];
const seen = new Map();
const worst = (name, value) => seen.set(name, Math.max(seen.get(name) ?? 0, value));

/** A browser of its own, signed in, slowed, and watching itself. */
async function visitor() {
  const context = await browser.newContext({ baseURL: base, viewport: { width: 1280, height: 800 } });
  await context.request.post('/api/sign-in', { data: { name: 'ines', password: 'demo-ines-bench' } });
  await context.addInitScript(() => {
    window.watched = { painted: 0, shift: 0, blocked: 0, slowest: 0 };
    const watch = (type, take, more) =>
      new PerformanceObserver((list) => list.getEntries().forEach(take)).observe({
        type,
        buffered: true,
        ...more,
      });
    watch('largest-contentful-paint', (e) => (window.watched.painted = e.startTime));
    watch('layout-shift', (e) => !e.hadRecentInput && (window.watched.shift += e.value));
    watch('longtask', (e) => (window.watched.blocked += e.duration - 50));
    watch('event', (e) => (window.watched.slowest = Math.max(window.watched.slowest, e.duration)), {
      durationThreshold: 16,
    });
  });
  const page = await context.newPage();
  const line = await context.newCDPSession(page);
  await line.send('Emulation.setCPUThrottlingRate', { rate: slowed });
  return { context, page, line };
}

const watched = (page) => page.evaluate(() => window.watched);
const idle = (page) => page.waitForTimeout(3000);

const { page, context, line } = await visitor();
const { cases } = await (await context.request.get('/api/cases')).json();
const six = `/cases/${cases.find((c) => c.title.includes('big end 4')).id}`;

// Cold is the device, not the server, which has answered others before.
await context.request.get(`/api${six}`);
await context.request.get(`/api${six}/answers`);
await context.request.get('/api/knowledge');
await idle(page);
await page.goto(`${six}/look`);
await page.getByRole('heading', { name: 'Which part is in your hand?' }).waitFor();
await idle(page);
worst('largest element painted, cold', (await watched(page)).painted);
worst('layout shift, the worst page', (await watched(page)).shift);
await idle(page);
// Warm is what one sees all day: the device has what it keeps, and the browser has compiled what it was given.
await page.goto(`${six}/look`);
await idle(page);
for (const stage of ['look', 'trace', 'gauge', 'strip', 'verdict']) {
  await page.goto(`${six}/${stage}`);
  await page.getByRole('main').last().waitFor();
  await idle(page);
  const now = await watched(page);
  console.log(
    `  ${stage}: painted ${now.painted.toFixed(0)} ms, blocked ${now.blocked.toFixed(0)} ms, shift ${now.shift.toFixed(3)}`,
  );
  if (stage !== 'look') continue;
  worst('largest element painted, warm', now.painted);
  worst('blocked while it opens, warm', now.blocked);
}

/** From the press to the paint that shows what was waited for, in the page's own time. */
const pressed = (find, done) =>
  page.evaluate(
    ([what, until]) =>
      new Promise((resolve) => {
        const key = [...document.querySelectorAll(what.css)].find(
          (e) => !what.text || e.textContent.includes(what.text),
        );
        const began = performance.now();
        const look = () => {
          const there = [...document.querySelectorAll(until.css)].some(
            (e) => !until.text || e.textContent.includes(until.text),
          );
          // Seen in a frame's callback: that very frame paints it, and what is set here runs after it.
          if (there) setTimeout(() => resolve(performance.now() - began), 0);
          else if (performance.now() - began > 20000) resolve(20000);
          else requestAnimationFrame(look);
        };
        key.click();
        requestAnimationFrame(look);
      }),
    [find, done],
  );

const heads = {
  Strip: 'h2',
  Index: 'h2',
  Look: 'h2',
  Gauge: 'h2',
  Trace: 'h2',
  Verdict: 'h2',
  Arrival: 'h2',
};
for (const round of [1, 2])
  for (const stage of Object.keys(heads)) {
    await page.waitForTimeout(1200);
    await page.evaluate(() =>
      document.querySelectorAll('main h1, main h2').forEach((h) => h.setAttribute('data-old', '')),
    );
    const took = await pressed(
      { css: 'nav[aria-label="Stages of the case"] a', text: stage },
      { css: 'main h1:not([data-old]), main h2:not([data-old])' },
    );
    if (round === 2) {
      console.log(`  to ${stage}: ${took.toFixed(0)} ms`);
      worst('stage change, warm, the slowest', took);
    }
  }

await page.goto(`${six}/verdict`);
await idle(page);
await page.evaluate(() => (window.watched.slowest = 0));
for (const part of ['P2', 'R5', 'M3']) {
  await page
    .locator(`[data-address="${part}"]`)
    .first()
    .click({ position: { x: 5, y: 5 }, force: true });
  await page.waitForTimeout(1500);
}
worst('touch to paint, the slowest', (await watched(page)).slowest);

await page.goto(`${six}/gauge?round=crankpin-diameter`);
await page.getByLabel(/^Type the figure/).waitFor();
// What the device keeps of the other rooms is brought up to date first.
await page.waitForTimeout(9000);
let requests = 0;
let bytes = 0;
await line.send('Network.enable');
const sent = new Set();
line.on('Network.requestWillBeSent', (e) => {
  if (!e.request.url.includes('/api/') || e.type === 'EventSource') return;
  sent.add(e.requestId);
  requests++;
});
line.on('Network.loadingFinished', (e) => sent.has(e.requestId) && (bytes += e.encodedDataLength));
const figures = ['71.98', '71.97', '71.98', '71.96'];
for (const typed of figures) {
  await page.getByLabel(/^Type the figure/).fill(typed);
  const before = await page.locator('main .card h2').first().textContent();
  await page.evaluate((was) => {
    window.went = new Promise((resolve) => {
      const began = performance.now();
      const look = () =>
        document.querySelector('main .card h2').textContent !== was
          ? setTimeout(() => resolve(performance.now() - began), 0)
          : performance.now() - began > 15000
            ? resolve(15000)
            : requestAnimationFrame(look);
      document.querySelector('main form').requestSubmit();
      requestAnimationFrame(look);
    });
  }, before);
  worst('figure entered to the next line', await page.evaluate(() => window.went));
  await page.waitForTimeout(400);
}
await page.waitForTimeout(1500);
worst('requests for a figure', requests / figures.length);
worst('received for a figure', bytes / figures.length / 1024);

/** Looks at a piston, up to the key that saves. */
async function scuffed(piston) {
  await page.goto(`${six}/look?part=${piston}`);
  await page.getByRole('heading', { name: 'What does it show?' }).waitFor();
  await idle(page);
  await page
    .getByRole('button', { name: /^Skirt scuffed on the thrust side/ })
    .first()
    .click();
  await page.getByRole('button', { name: /^2 / }).first().click();
}
const shown = { css: 'main li', text: 'Skirt scuffed on the thrust side, ' };

await scuffed('P2');
worst('finding saved', await pressed({ css: 'main button', text: 'Save' }, shown));

// The same on the next piston, with another tab open on it. Begun when the first tab has shown it, so a little is left out.
const other = await context.newPage();
await other.goto(`${six}/look?part=P3`);
await scuffed('P3');
await pressed({ css: 'main button', text: 'Save' }, shown);
const saved = Date.now();
await other.locator(shown.css, { hasText: shown.text }).first().waitFor();
worst('seen in another tab after it was saved', Date.now() - saved);

let missed = 0;
console.log(`\nIn Chromium with its processor slowed ${slowed} times:`);
for (const [name, unit, aim] of aims) {
  const value = seen.get(name) ?? NaN;
  const held = value <= aim;
  if (!held) missed++;
  console.log(
    `${held ? ' ' : '✕'} ${name.padEnd(36)} ${value.toFixed(unit === '' && aim < 1 ? 3 : unit === 'kB' ? 1 : 0).padStart(7)} ${unit.padEnd(2)}  aim ${aim}`,
  );
}
await browser.close();
process.exit(missed > 0 ? 1 : 0);
