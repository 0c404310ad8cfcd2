// Two tabs of one browser, in which now one person enters findings and now another, over a line that is cut: a part of ./chaos.
// node tabs.mjs ADDRESS CASE SECONDS SEED FILE
import { chromium } from '@playwright/test';
import { writeFileSync } from 'node:fs';

const [address, caseId, seconds, seed, file] = process.argv.slice(2);
const ends = Date.now() + Number(seconds) * 1000;
const entries = [];
const problems = [];

// mulberry32: small, seeded, and good enough to draw with.
let state = Number(seed) >>> 0;
const chance = (most) => {
  state = (state + 0x6d2b79f5) >>> 0;
  let t = state;
  t = Math.imul(t ^ (t >>> 15), t | 1);
  t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
  return Math.floor((((t ^ (t >>> 14)) >>> 0) / 4294967296) * most);
};

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update'],
});
const context = await browser.newContext({ baseURL: address, viewport: { width: 1280, height: 800 } });
context.setDefaultTimeout(60_000);
const pages = [await context.newPage(), await context.newPage()];
for (const page of pages)
  page.on('pageerror', (e) => {
    // What was asked for when somebody else signed in, when a session had ended by a wrong clock, or when nobody answered, is no fault.
    if (!/does not answer|CancelledError|Not signed in/.test(String(e)))
      problems.push(`an error in the page: ${String(e.stack ?? e).slice(0, 300)}`);
  });
let person = '';

/** Tries until it is done; on a line that is cut that may take some turns. */
async function until(what, work, within = 300_000) {
  const began = Date.now();
  for (;;)
    try {
      return await work();
    } catch (e) {
      if (Date.now() - began > within) throw new Error(`${what} did not come to an end: ${e}`, { cause: e });
      await new Promise((r) => setTimeout(r, 500));
    }
}

/** Whoever looks at a page that does not come loads it again, and waits longer each time: a line that stands still never says so. */
const signIn = (page, name) => {
  let tries = 0;
  return until(
    `signing ${name} in`,
    async () => {
      const timeout = 10_000 * ++tries;
      await page.goto('/', { waitUntil: 'domcontentloaded', timeout });
      const out = page.getByRole('button', { name: /^(ines|tomas|vera)$/ });
      const form = page.getByRole('button', { name: 'Sign in', exact: true });
      await out.or(form).first().waitFor({ timeout });
      if ((await out.isVisible()) && !(await page.getByRole('button', { name, exact: true }).isVisible())) {
        await out.click({ timeout });
        await page.getByRole('menuitem', { name: /^Sign out/ }).click({ timeout });
        // What waits is asked about first.
        const anyway = page.getByRole('button', { name: /all the same$/ });
        await anyway.or(form).first().waitFor({ timeout });
        if (await anyway.isVisible()) await anyway.click({ timeout });
        await form.waitFor({ timeout });
      }
      if (await form.isVisible()) {
        await page.getByLabel('Name').fill(name);
        await page.getByLabel('Password').fill(`demo-${name}-bench`);
        await form.click();
      }
      await page.getByRole('button', { name, exact: true }).waitFor({ timeout });
      person = name;
    },
    200_000,
  );
};

const openPart = (page, place) =>
  until(
    'opening a part',
    async () => {
      await page.goto(`/cases/${caseId}/look`, { waitUntil: 'domcontentloaded' });
      await page.getByRole('region', { name: 'The engine' }).waitFor();
      await page.keyboard.press('F2');
      await page.getByRole('combobox', { name: /^Go anywhere/ }).fill(place);
      await page.keyboard.press('Enter');
      await page.getByRole('heading', { name: 'What does it show?' }).waitFor();
    },
    30_000,
  );

const signs = [
  'Skirt scuffed on the thrust side',
  'Scuffed at four corners',
  'Scuffed all round',
  'Ring land broken',
  'Top groove worn wide',
  'Crown struck',
];

async function enter(page, offline) {
  const place = `P${1 + chance(6)}`;
  await openPart(page, place);
  const offered = [];
  for (const sign of signs) {
    const button = page.getByRole('button', { name: new RegExp(`^${sign}`) }).first();
    if (await button.isVisible()) offered.push([sign, button]);
  }
  if (offered.length === 0) return;
  const [sign, button] = offered[chance(offered.length)];
  await button.click();
  await page
    .getByRole('button', { name: /^2 moderate/ })
    .first()
    .click();
  await context.setOffline(offline);
  const entry = { place, by: person, kept: false };
  entries.push(entry);
  await page.getByRole('button', { name: 'Save' }).click();
  // The form says that it is kept, whether it is sent already or not.
  await page.getByRole('status').filter({ hasText: sign }).first().waitFor({ timeout: 10_000 });
  entry.kept = true;
}

try {
  await signIn(pages[0], 'tomas');
  while (Date.now() < ends) {
    const page = pages[chance(2)];
    try {
      switch (chance(8)) {
        case 0:
          await signIn(page, person === 'tomas' ? 'ines' : 'tomas');
          break;
        default:
          await enter(page, chance(4) === 0);
          await context.setOffline(false);
      }
    } catch {
      await context.setOffline(false);
    }
  }
  await context.setOffline(false);
  // Whatever waits is sent as soon as its writer is here.
  for (const name of ['tomas', 'ines']) {
    await signIn(pages[0], name);
    await until(
      `sending what ${name} entered`,
      async () => {
        await pages[0].goto(`/cases/${caseId}/look`, { waitUntil: 'domcontentloaded' });
        await pages[0].getByRole('region', { name: 'The engine' }).waitFor();
        const left = await pages[0].evaluate(
          (by) =>
            new Promise((done, fail) => {
              const open = indexedDB.open('vivid-sleuth');
              open.onerror = fail;
              open.onsuccess = () => {
                const all = open.result.transaction('outbox').objectStore('outbox').getAll();
                all.onerror = fail;
                all.onsuccess = () => {
                  open.result.close();
                  done(all.result.filter((e) => e.by === by));
                };
              };
            }),
          name,
        );
        if (left.some((e) => e.refused))
          problems.push(`set aside: ${JSON.stringify(left[0].refused).slice(0, 300)}`);
        else if (left.length > 0) throw new Error('not all sent');
      },
      150_000,
    );
  }
} catch (e) {
  problems.push(String(e));
}
writeFileSync(file, JSON.stringify({ entries, problems }));
console.log(
  `${entries.length} findings entered in two tabs by two people, ${entries.filter((e) => e.kept).length} seen to be kept`,
);
await browser.close();
