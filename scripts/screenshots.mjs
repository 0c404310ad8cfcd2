// Takes the pictures in docs/screenshots from a running demo (./start). Run from the repository's root:
//   node scripts/screenshots.mjs [address] [name …]
import { chromium } from '@playwright/test';

const base = process.argv[2] ?? 'http://127.0.0.1:8737';
const only = process.argv.slice(3);
const out = process.env.SHOTS ?? 'docs/screenshots';
const desk = { width: 1280, height: 800 };
const phone = { width: 390, height: 844 };

const views = [
  ['casebook', desk, () => '/'],
  ['arrival', desk, (c) => `${c}/arrival`],
  ['strip', desk, (c, pump) => `${pump}/strip?step=bed-plate`],
  ['index', desk, (c, pump) => `${pump}/index`],
  ['part-drawer', desk, (c) => `${c}/gauge?part=R4U`],
  ['look', desk, (c) => `${c}/look?part=P3&sign=skirt-scuff-thrust`],
  ['atlas', desk, () => '/atlas?chapter=plain-bearings'],
  ['gauge', desk, (c) => `${c}/gauge`],
  ['class', desk, () => ofClass],
  ['trace', desk, (c) => `${c}/trace`],
  ['verdict', desk, (c) => `${c}/verdict`],
  ['options', desk, (c, pump, four) => `${four}/verdict?view=options`],
  ['order', desk, (c) => `${c}/verdict?view=order`],
  ['build', desk, (c, pump, four) => `${four}/build`],
  ['dossier', desk, (c) => `${c}/dossier`],
  ['phone-back', phone, () => `${together}/build?task=back%2Fbed-plate`],
  ['phone-look', phone, (c) => `${c}/look?part=C3&sign=bore-scratched`],
  ['phone-round', phone, (c) => `${c}/gauge?round=shell-wall`],
  ['phone-strip', phone, (c, pump) => `${pump}/strip?step=bed-plate`],
];

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const context = await browser.newContext({ baseURL: base });
await context.request.post('/api/sign-in', { data: { name: 'ines', password: 'demo-ines-bench' } });
const { cases } = await (await context.request.get('/api/cases')).json();
const caseOf = (words) =>
  `/cases/${cases.find((c) => c.engineName.startsWith(words) || c.title.includes(words)).id}`;
const [six, pump, four] = [caseOf('Hollin'), caseOf('seized on a drill'), caseOf('Brindle')];
const together = caseOf('going back together');
const [{ class: of }] = await (await context.request.get('/api/classes')).json();
const ofClass = `/classes/${of.id}`;
const page = await context.newPage();
for (const [name, size, address] of views) {
  if (only.length > 0 && !only.includes(name)) continue;
  await page.setViewportSize(size);
  await page.goto(address(six, pump, four));
  // The line on which the page hears of others stays open, so the network never falls silent.
  await page.waitForFunction(
    () =>
      !/Opening .* …/.test(document.body.innerText) &&
      document.querySelector('main') !== null &&
      [...document.images].every((i) => i.complete),
  );
  await page.waitForTimeout(400);
  await page.evaluate(() => document.fonts.ready);
  // The step itself is what the picture is about; the section above it is in others.
  if (name === 'strip' || name === 'phone-strip')
    await page.getByRole('article').evaluate((e) => window.scrollTo(0, e.offsetTop - 12));
  if (name === 'order')
    await page.getByText('Here, to be checked').evaluate((e) => window.scrollTo(0, e.offsetTop - 12));
  if (name === 'look' || name === 'phone-look') {
    await page.getByRole('button', { name: /^2 moderate/ }).click();
    const zone = name === 'look' ? 'skirt at the pin' : 'middle';
    for (const hour of [2, 3, 4])
      await page.getByRole('button', { name: `${zone}, ${hour} o’clock` }).click();
    await page.getByRole('heading', { name: 'Where on it?' }).evaluate((e) => e.scrollIntoView());
    await page.evaluate(() => scrollBy(0, -260));
  }
  if (name.startsWith('gauge') && name !== 'gauge-round')
    await page
      .getByRole('heading', { name: name === 'gauge' ? 'Due now' : 'Sheet', exact: true })
      .evaluate((e) => {
        e.scrollIntoView();
        scrollBy(0, -14);
      });
  if (name === 'phone-round' || name === 'gauge-round')
    await page.getByRole('button', { name: 'End the round' }).evaluate((e) => {
      e.scrollIntoView();
      scrollBy(0, -14);
    });
  if (name === 'new-case') {
    await page.getByLabel('Start from').selectOption({ label: 'Motorcycle vee twin, pushrods' });
    await page.getByText('Fires at', { exact: true }).first().waitFor();
  }
  await page.waitForTimeout(250);
  await page.screenshot({ path: `${out}/${name}.png` });
  console.log(name);
}
await browser.close();
