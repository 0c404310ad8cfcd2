import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { resolve } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import {
  caseOf,
  expectAccessible,
  expectNoSidewaysScroll,
  goTo,
  kept,
  newCase,
  openDemo,
  phone,
  record,
  signIn,
  signOut,
  stage,
} from './shop';

const root = resolve(import.meta.dirname, '../..');
const picture = resolve(root, 'demo/pictures/crown-p1.jpg');

test('a finding takes four touches, the next cylinder two fewer, and a clean part one', async ({ page }) => {
  await page.setViewportSize(phone);
  await signIn(page);
  await newCase(page, 'Four touches');
  await stage(page, 'Look');
  await goTo(page, 'P1');
  let touches = 0;
  const touch = async (name: string | RegExp) => {
    touches++;
    await page.getByRole('button', { name }).first().click();
  };
  await touch(/^Skirt scuffed on the thrust side/);
  await touch(/^2 moderate/);
  await touch('upper skirt, 3 o’clock');
  await expect(page.getByText('upper skirt, 3 o’clock, thrust side')).toBeVisible();
  await touch('Save');
  expect(touches).toBe(4);
  await expect(page.getByRole('status').filter({ hasText: 'Skirt scuffed' })).toBeVisible();
  await expect(page.getByText('Skirt scuffed on the thrust side, moderate', { exact: true })).toBeVisible();

  await touch('The same on P2 ▸');
  await touch(/^Not there/);
  await expect(page.getByText('Checked, not there: 1')).toBeVisible();

  await goTo(page, 'P3');
  await page.getByRole('button', { name: 'All clear' }).click();
  await expect(page.getByText('Everything known for this part is recorded.')).toBeVisible();
  await expectNoSidewaysScroll(page);
  await expect(page.getByRole('button', { name: /to send/ })).toBeHidden();
  const { findings } = await record(page, caseOf(page));
  expect(findings.filter((f: { place: string }) => f.place === 'P1')).toHaveLength(1);
  expect(findings.find((f: { place: string }) => f.place === 'P1').zones).toEqual(['P3']);
  expect(findings.filter((f: { place: string }) => f.place === 'P3').length).toBeGreaterThan(20);
});

test('a picture of the shot list is marked, and the finding points to the mark', async ({ page }) => {
  await signIn(page);
  await newCase(page, 'Marked picture');
  await stage(page, 'Look');
  await goTo(page, 'P1');
  const shots = page.getByRole('list', { name: 'Photos still missing' });
  await expect(shots.getByText('Crown from above')).toBeVisible();
  const chooser = page.waitForEvent('filechooser');
  await page
    .getByRole('button', { name: /: from files$/ })
    .first()
    .click();
  await (await chooser).setFiles(picture);
  await expect(shots.getByText('Crown from above')).toBeHidden();
  await page.getByRole('img', { name: 'Crown from above' }).click();
  const dialog = page.getByRole('dialog');
  const draw = async (from: [number, number], to: [number, number]) => {
    const box = (await dialog.getByRole('img', { name: /marks/i }).boundingBox())!;
    await page.mouse.move(box.x + from[0] * box.width, box.y + from[1] * box.height);
    await page.mouse.down();
    await page.mouse.move(box.x + to[0] * box.width, box.y + to[1] * box.height, { steps: 4 });
    await page.mouse.up();
  };
  await dialog.getByRole('button', { name: /Scale/ }).click();
  await draw([0.2, 0.9], [0.8, 0.9]);
  await dialog.getByLabel('Length of the scale in mm').fill('60');
  await dialog.getByRole('button', { name: 'Keep the mark' }).click();
  await expect(dialog.getByText('scale 60 mm')).toBeVisible();
  await dialog.getByRole('button', { name: /Ring/ }).click();
  await draw([0.5, 0.5], [0.55, 0.5]);
  await dialog.getByLabel('What the mark shows').fill('washed edge');
  await dialog.getByRole('button', { name: 'Keep the mark' }).click();
  // A ring of a tenth of the width, where six tenths are 60 mm.
  await expect(dialog.getByText(/washed edge, about 1[01](\.\d)? mm/)).toBeVisible();
  await expectAccessible(page);
  await dialog.getByRole('button', { name: 'Close' }).click();
  await page.getByLabel('Search signs').fill('steam');
  await page.getByLabel('Search signs').fill('washed by coolant');
  await page.getByRole('button', { name: /^Crown steam-cleaned/ }).click();
  await page.getByRole('button', { name: /^1 slight/ }).click();
  await page.getByRole('button', { name: /washed edge/ }).click();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('button', { name: 'Save' })).toBeHidden();
  await page.getByRole('button', { name: /washed edge/ }).click();
  await expect(page.getByRole('dialog').getByText('scale 60 mm')).toBeVisible();
});

test('without a network the bench goes on: reload, tick, count, look and photograph; then all arrives once and in order', async ({
  page,
  context,
}) => {
  await signIn(page);
  await newCase(page, 'No network');
  const id = caseOf(page);
  await stage(page, 'Strip');
  await expect(page.getByRole('heading', { name: 'Record it as it came' })).toBeVisible();
  await stage(page, 'Look');
  await goTo(page, 'P1');
  await kept(page, 'strip', 'look');
  await context.setOffline(true);
  await page.reload();

  await expect(page.getByRole('button', { name: /^Crown cracked/ })).toBeVisible();
  await page.getByRole('button', { name: /^Crown cracked/ }).click();
  await page.getByRole('button', { name: /^3 severe/ }).click();
  await page.getByRole('button', { name: 'edge of the crown, 9 o’clock' }).click();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('kept here, not yet sent')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save' })).toBeHidden();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'From files', exact: true }).click();
  await (await chooser).setFiles(picture);
  await expect(page.getByText('not yet sent', { exact: true })).toBeVisible();

  await stage(page, 'Strip');
  await page.getByRole('checkbox', { name: /^Barred over two full turns by hand/ }).click();
  await expect(page.getByRole('checkbox', { name: /^Barred over two full turns by hand/ })).toBeChecked();
  await page.getByRole('button', { name: /Clutch and flywheel off/ }).click();
  await page.getByRole('button', { name: 'flywheel bolts: all 6 out' }).click();
  await expect(page.getByText(/6 of 12 still hold/)).toBeVisible();

  // The battery dies: what was kept is there when the page comes back, and says why it waits.
  await page.reload();
  await expect(page.getByRole('button', { name: '4 to send' })).toBeVisible();
  await page.getByRole('button', { name: '4 to send' }).click();
  const queue = page.getByRole('dialog');
  await expect(queue).toContainText('There is no network');
  await expect(queue.getByRole('listitem')).toHaveText([/Crown cracked/, /crown-p1/, /Ticked/, /flywheel/]);
  await expectAccessible(page);
  await queue.getByRole('button', { name: 'Close' }).click();

  await context.setOffline(false);
  await expect(page.getByRole('button', { name: /to send/ })).toBeHidden();
  const c = await record(page, id);
  expect(c.findings.map((f: { sign: string }) => f.sign)).toEqual(['crown-crack']);
  expect(c.photos).toHaveLength(1);
  expect(c.stepMarks).toHaveLength(1);
  expect(c.fastenerMoves.map((m: { count: number }) => m.count)).toEqual([6]);
});

test('what waits survives signing out and is sent in nobody else’s name', async ({ page, context }) => {
  await signIn(page);
  await newCase(page, 'Signed out');
  const id = caseOf(page);
  await stage(page, 'Look');
  await goTo(page, 'C1');
  await kept(page);
  await page.route('**/findings/many', (r) => r.abort());
  await page.getByRole('button', { name: 'All clear' }).click();
  await expect(page.getByRole('button', { name: '1 to send' })).toBeVisible();
  await signOut(page, 'tomas');
  await page.getByRole('button', { name: 'Sign out tomas all the same' }).click();
  await expect(page.getByText(/of tomas on this device waits to be sent/)).toBeVisible();
  await page.unroute('**/findings/many');
  await page.getByLabel('Name').fill('ines');
  await page.getByLabel('Password').fill('demo-ines-bench');
  await page.getByRole('button', { name: 'Sign in' }).click();
  // Who comes next stands where the one before left off.
  await expect(page.getByText(/of \d+ signs read/)).toBeVisible();
  await page.getByRole('button', { name: '1 to send' }).click();
  await expect(page.getByRole('dialog')).toContainText('Entered by tomas');
  await page.getByRole('button', { name: 'Close' }).click();
  expect((await record(page, id)).findings).toHaveLength(0);
  await page.route('**/sign-out', (r) => r.abort());
  await signOut(page, 'ines');
  await expect(page.getByRole('dialog')).toContainText('still signed in');
  await page.unroute('**/sign-out');
  await page.getByRole('button', { name: 'Sign out ines all the same' }).click();
  await expect(page.getByLabel('Name')).toBeVisible();
  await signIn(page, 'tomas');
  await expect(page.getByRole('button', { name: /to send/ })).toBeHidden();
  const { findings } = await record(page, id);
  expect(findings.length).toBeGreaterThan(10);
  expect(new Set(findings.map((f: { by: string }) => f.by))).toEqual(new Set(['tomas']));
  await context.clearCookies();
});

test('two who look at one part are both kept and shown side by side', async ({ page, browser }) => {
  await signIn(page);
  await newCase(page, 'Two at one part');
  const id = caseOf(page);
  const other = await browser.newPage();
  await signIn(other, 'ines');
  for (const [who, level] of [
    [page, /^3 severe/],
    [other, /^1 slight/],
  ] as const) {
    await who.goto(`/cases/${id}/look?part=R2U&sign=overlay-wiped`);
    await who.getByRole('button', { name: level }).click();
  }
  await page.getByRole('button', { name: 'Save' }).click();
  await other.getByRole('button', { name: 'Save' }).click();
  await page.reload();
  const mismatch = page.getByRole('region', { name: /^Disagreement/ });
  await expect(mismatch).toContainText('severe');
  await expect(mismatch).toContainText('slight');
  await mismatch.getByRole('button', { name: 'This one stands' }).first().click();
  await expect(mismatch).toBeHidden();
  await expect(page.getByText('Overlay wiped, severe')).toBeVisible();
  await other.close();
});

test('the server is killed in the middle of uploads and comes back: every finding and picture arrives once', async ({
  browser,
}) => {
  const database = process.env.SLEUTH_DATABASE?.split(' | ')[test.info().parallelIndex];
  const port = await new Promise<number>((done) => {
    const free = createServer().listen(0, '127.0.0.1', () => {
      const { port: p } = free.address() as { port: number };
      free.close(() => done(p));
    });
  });
  const start = async (): Promise<ChildProcess> => {
    const server = spawn(
      'dotnet',
      [
        'src/VividSleuth.Server/bin/Release/net10.0/VividSleuth.Server.dll',
        '--urls',
        `http://127.0.0.1:${port}`,
        '--contentRoot',
        resolve(root, 'src/VividSleuth.Server'),
      ],
      { cwd: root, stdio: 'ignore', env: { ...process.env, ConnectionStrings__Sleuth: database } },
    );
    await expect
      .poll(
        () =>
          fetch(`http://127.0.0.1:${port}/api/setup`).then(
            (r) => r.status,
            () => 0,
          ),
        { timeout: 120_000 },
      )
      .toBe(200);
    return server;
  };
  // A second instance beside the one under test, on the same database: the server is stateless.
  test.skip(!database, 'needs SLEUTH_DATABASE, as ./test sets it');
  let server = await start();
  const page = await browser.newPage({ baseURL: `http://127.0.0.1:${port}` });
  try {
    await signIn(page);
    await newCase(page, 'Killed in between');
    const id = caseOf(page);
    await page.goto(`/cases/${id}/look?part=P1`);
    await expect(page.getByRole('button', { name: 'All clear' })).toBeVisible();
    await kept(page);
    const data = readFileSync(picture);
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'From files', exact: true }).click();
    // Each differs by a byte behind its end, so that each is a file of its own.
    await (
      await chooser
    ).setFiles(
      Array.from({ length: 24 }, (_, i) => ({
        name: `p${i}.jpg`,
        mimeType: 'image/jpeg',
        buffer: Buffer.concat([data, Buffer.from([i])]),
      })),
    );
    for (let kills = 0; kills < 3; kills++) {
      await page.waitForRequest((r) => r.method() === 'POST' && r.url().endsWith('/photos'));
      const gone = once(server, 'exit');
      server.kill('SIGKILL');
      await gone;
      server = await start();
    }
    await page.getByRole('button', { name: 'All clear' }).click();
    await expect(page.getByRole('button', { name: /to send/ })).toBeHidden({ timeout: 180_000 });
    const c = await record(page, id);
    expect(c.photos.map((p: { fileName: string }) => p.fileName).sort()).toEqual(
      Array.from({ length: 24 }, (_, i) => `p${i}.jpg`).sort(),
    );
    const signs = c.findings.map((f: { sign: string }) => f.sign);
    expect(signs.length).toBeGreaterThan(20);
    expect(new Set(signs).size).toBe(signs.length);
    for (const p of c.photos) {
      expect((await page.request.get(`/api/cases/${id}/photos/${p.id}/thumb`)).status()).toBe(200);
    }
  } finally {
    await page.close();
    server.kill('SIGKILL');
  }
});

test('a damaged picture is told by name and the others of the batch are kept', async ({ page }) => {
  await signIn(page);
  await newCase(page, 'Damaged picture');
  await stage(page, 'Look');
  await goTo(page, 'C2');
  const data = readFileSync(picture);
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'From files', exact: true }).click();
  await (
    await chooser
  ).setFiles([
    { name: 'one.jpg', mimeType: 'image/jpeg', buffer: data },
    { name: 'cut.jpg', mimeType: 'image/jpeg', buffer: data.subarray(0, data.length / 2) },
    {
      name: 'script.svg',
      mimeType: 'image/svg+xml',
      buffer: Buffer.from('<svg><script>alert(1)</script></svg>'),
    },
    { name: 'two.jpg', mimeType: 'image/jpeg', buffer: Buffer.concat([data, Buffer.from([1])]) },
  ]);
  await expect(page.getByRole('alert').filter({ hasText: 'cut.jpg' })).toBeVisible();
  await expect(page.getByRole('alert').filter({ hasText: 'script.svg' })).toBeVisible();
  const names = async () =>
    (await record(page, caseOf(page))).photos.map((p: { fileName: string }) => p.fileName).sort();
  await expect.poll(names).toEqual(['one.jpg', 'two.jpg']);
  await page.getByRole('button', { name: '2 to look at' }).click();
  await expectAccessible(page);
  for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Give it up' }).first().click();
  await expect(page.getByRole('button', { name: /to look at/ })).toBeHidden();
});

test('the atlas is leafed through, searched by the trade’s names and reached from Trace', async ({
  page,
}) => {
  await signIn(page);
  await page.goto('/atlas');
  await expect(page.getByRole('heading', { name: 'Bores' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: /^Rolling bearings/ }).click();
  await page.getByRole('link', { name: /Marks at ball spacing, bright/ }).click();
  await expect(page.getByText('Standard: ISO 15243: false brinelling')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('searchbox').fill('spun bearing');
  await expect(page.getByRole('link', { name: 'Shell turned in its seat' })).toBeVisible();
  await openDemo(page, 'big end 4');
  await stage(page, 'Trace');
  await page.getByRole('link', { name: 'Overlay wiped' }).first().click();
  await expect(page).toHaveURL(/\/atlas\/overlay-wiped/);
});

test('peers side by side show one view of all, with the odd one out; start page and phone are in order', async ({
  page,
}) => {
  await signIn(page);
  await openDemo(page, 'big end 4');
  await stage(page, 'Look');
  await expect(page.getByText(/Patterns/)).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: /upper shell.*side by side/ }).click();
  await expect(page.getByText(/R4U clearly differs among the 6/)).toBeVisible();
  await expect(page.getByRole('img', { name: /upper shell/i })).toHaveCount(6);
  await expectAccessible(page);
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
  await openDemo(page, 'fire pump');
  await stage(page, 'Look');
  await expectNoSidewaysScroll(page);
  await goTo(page, 'P1');
  await page
    .getByRole('button', { name: /^Rings far|^Skirt dull/ })
    .first()
    .click();
  await page.getByRole('button', { name: /^1 slight/ }).click();
  await expectNoSidewaysScroll(page);
  await expectAccessible(page);
});

test('on a phone a zone is as large as a thumb after one touch, a picture fills the screen, and keys go through its fellows', async ({
  page,
}) => {
  await signIn(page, 'ines');
  await openDemo(page, 'big end 4');
  const id = caseOf(page);
  await page.setViewportSize(phone);
  for (const [part, sign, face] of [
    ['P3', 'skirt-scuff-thrust', 'Side'],
    ['P3', 'skirt-scuff-thrust', 'Crown'],
    ['C3', 'bore-scratched', null],
  ] as const) {
    await page.goto(`/cases/${id}/look?part=${part}&sign=${sign}`);
    await page.getByRole('button', { name: /^2 / }).first().click();
    if (face) await page.getByRole('button', { name: face, exact: true }).click();
    await page.getByRole('button', { name: 'Larger' }).click();
    const zones = page.locator('[data-zone]');
    const sides = await zones.evaluateAll((all) =>
      all.map((z) => z.getBoundingClientRect()).map((b) => Math.min(b.width, b.height)),
    );
    expect(Math.min(...sides)).toBeGreaterThanOrEqual(43.5);
    await expectNoSidewaysScroll(page);
    await zones.first().click();
    await expect(zones.first()).toHaveAttribute('aria-pressed', 'true');
  }
  await page.goto(`/cases/${id}/look?peers=all`);
  await page.locator('main li img').first().click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toHaveCSS('width', `${phone.width}px`);
  expect((await dialog.getByRole('img').first().boundingBox())!.width).toBeGreaterThan(phone.width - 2);
  await expect(dialog.getByText(/^1 of \d+$/)).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await expect(dialog.getByText(/^2 of \d+$/)).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await expect(dialog.getByText(/^1 of \d+$/)).toBeVisible();
  await expectAccessible(page);
});
