// Measures the contact sheet of 2,000 pictures in Debian's Chromium against a running server. Called by ./bench sheet:
//   node scripts/bench-sheet.mjs ADDRESS
import { readFileSync } from 'node:fs';
import { chromium } from '@playwright/test';

const count = 2000;
const aim = 1000;
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const context = await browser.newContext({
  baseURL: process.argv[2],
  viewport: { width: 1280, height: 800 },
});
await context.request.post('/api/sign-in', { data: { name: 'ines', password: 'demo-ines-bench' } });
const page = await context.newPage();
await page.goto('/');
// Each picture its own, as a camera's are.
const pictures = await page.evaluate((n) => {
  const canvas = document.createElement('canvas');
  canvas.width = 320;
  canvas.height = 240;
  const pen = canvas.getContext('2d');
  return Array.from({ length: n }, (_, i) => {
    pen.fillStyle = `hsl(${i % 360} 30% 60%)`;
    pen.fillRect(0, 0, 320, 240);
    pen.fillStyle = '#222';
    pen.font = '80px monospace';
    pen.fillText(String(i), 30, 150);
    return canvas.toDataURL('image/jpeg', 0.8).split(',')[1];
  });
}, count);
const file = JSON.parse(readFileSync('demo/cases/biogas-six.case.json', 'utf8'));
const [model] = file.case.photos;
file.case.title = 'Bench: two thousand pictures';
file.pictures = [];
file.case.photoMarks = [];
for (const f of file.case.findings) f.marks = [];
const id = (i) => `01940000-0000-7000-8000-${String(i).padStart(12, '0')}`;
file.case.photos = pictures.map((data, i) => {
  file.pictures.push({ photo: id(i), mediaType: 'image/jpeg', data });
  return { ...model, id: id(i), fileName: `${i}.jpg`, caption: `Picture ${i}` };
});
const made = await context.request.post('/api/cases/import', { data: file, timeout: 300_000 });
const { id: caseId } = await made.json();
await page.goto(`/cases/${caseId}/look`);
const all = page.getByRole('button', { name: 'All pictures' });
await all.waitFor();

const whole = () =>
  page.evaluate(async () => {
    const inSight = () =>
      [...document.querySelectorAll('main li img')].filter((i) => {
        const box = i.getBoundingClientRect();
        return box.bottom > 0 && box.top < innerHeight;
      });
    while (inSight().length < 4 || !inSight().every((i) => i.complete && i.naturalWidth > 0))
      await new Promise((r) => requestAnimationFrame(r));
    return inSight().length;
  });
const start = performance.now();
await all.click();
const seen = await whole();
const first = performance.now() - start;

const scroll = await page.evaluate(async () => {
  const frames = [];
  let last = performance.now();
  const far = document.documentElement.scrollHeight - innerHeight;
  for (let y = 0; y <= far; y += 400) {
    scrollTo(0, y);
    await new Promise((r) => requestAnimationFrame(r));
    const now = performance.now();
    frames.push(now - last);
    last = now;
  }
  frames.sort((a, b) => a - b);
  return {
    median: frames[Math.floor(frames.length / 2)],
    p95: frames[Math.floor(frames.length * 0.95)],
    far,
    tiles: document.querySelectorAll('main li img').length,
  };
});
await whole();
await browser.close();
const holds = first <= aim;
console.log(
  `Look      contact sheet of ${count} pictures: first view (${seen} pictures drawn) ${first.toFixed(0)} ms, aim ${aim} ms  ${holds ? 'holds' : 'MISSED'}`,
);
console.log(
  `Look      scrolled over ${scroll.far} px in steps of 400: frame ${scroll.median.toFixed(0)} ms, 95th percentile ${scroll.p95.toFixed(0)} ms, ${scroll.tiles} pictures in the page`,
);
process.exit(holds ? 0 : 1);
