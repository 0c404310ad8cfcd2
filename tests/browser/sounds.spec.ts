import { expect, test, type Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expectAccessible, expectNoSidewaysScroll, openDemo, phone, signIn } from './shop';

const cli = fileURLToPath(
  new URL('../../src/VividSleuth.Cli/bin/Release/net10.0/sleuth.dll', import.meta.url),
);

/** A recording by the stand-in for a microphone beside an inline four. */
function recorded(name: string, ...options: string[]) {
  const file = join(mkdtempSync(join(tmpdir(), 'heard-')), `${name}.wav`);
  const of = [
    '--firing-order',
    '1-3-4-2',
    '--cylinder',
    '3',
    '--rpm',
    '1500',
    '--seed',
    '2',
    '--seconds',
    '8',
  ];
  execFileSync('dotnet', [cli, 'sound', 'OncePerCycle', file, ...of, ...options]);
  return file;
}

/** Arrival of a demo case, with the section for sounds open. */
async function listenTo(page: Page, demo: string) {
  await signIn(page, 'tomas');
  await openDemo(page, demo);
  const id = /cases\/([0-9a-f-]{36})/.exec(page.url())![1]!;
  await page.goto(`/cases/${id}/arrival`);
  await page.getByRole('button', { name: 'Listen to it' }).click();
  return id;
}

interface Record {
  sounds: { fileName: string; cutOut: number; load: string; withdrawnAt: string | null }[];
  findings: { sign: string; place: string; chance: number | null }[];
}

const record = async (page: Page, id: string) =>
  (await (await page.request.get(`/api/cases/${id}`)).json()) as Record;

const recordings = (page: Page) => page.getByRole('list', { name: 'Recordings' });

test('a recording is kept with what it was made under, heard, and taken as a hint', async ({ page }) => {
  const id = await listenTo(page, 'Refrigerated trailer');
  await page.getByLabel('Speed, rpm, if known').fill('1500');
  await page.getByRole('combobox', { name: /^Load/ }).selectOption('pulls');
  await page.getByLabel('Clamp on the second channel').selectOption('1');
  const name = `running ${Date.now()}`;
  await page.getByLabel('Read a sound file').setInputFiles(recorded(name, '--pickup', '1'));
  const line = recordings(page).getByRole('listitem').filter({ hasText: name });
  await expect(line).toContainText('8 s, 1500 rpm, pulling, clamp on cylinder 1');
  await expect(line).not.toContainText('waits on this device');
  await page.getByRole('button', { name: 'Listen', exact: true }).click();
  const heard = page.getByRole('region', { name: 'What was heard' });
  await expect(heard.getByText('A knock once a cycle')).toBeVisible({ timeout: 30_000 });
  await expect(heard.getByText('likeliest of cylinder 3')).toBeVisible();
  await expectAccessible(page);
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
  const taken = async () =>
    (await record(page, id)).findings.filter((f) => f.sign === 'noise-slap' && f.chance !== null);
  const before = (await taken()).length;
  await heard
    .getByRole('listitem')
    .filter({ hasText: 'Hollow slap' })
    .getByRole('button', { name: 'Take it' })
    .click();
  await expect(heard.getByRole('button', { name: 'Taken' })).toBeVisible();
  await expect.poll(async () => (await taken()).length).toBe(before + 1);
  expect((await taken())[0]!.chance).toBeLessThan(0.8);

  // What it was made under is put right, and the recording taken back with a reason.
  await line.getByRole('button', { name: 'Correct' }).click();
  await line.getByRole('combobox', { name: /^Load/ }).selectOption('light');
  await line.getByRole('button', { name: 'Save' }).click();
  await expect(line.getByRole('button', { name: 'Save' })).toHaveCount(0);
  await expect(line).toContainText('running light');
  await line.getByRole('button', { name: `Take ${name} back` }).click();
  await line.getByLabel('Why').fill('another engine');
  await line.getByRole('button', { name: 'Take the recording back' }).click();
  await expect(line).toHaveCount(0);
  const kept = async () => (await record(page, id)).sounds.find((s) => s.fileName === `${name}.wav`)!;
  await expect.poll(async () => (await kept()).withdrawnAt !== null).toBe(true);
  expect((await kept()).load).toBe('light');
});

test('without a network a recording waits on the device and is sent later', async ({ page, context }) => {
  const id = await listenTo(page, 'Refrigerated trailer');
  await page.getByRole('combobox', { name: /^Cut out/ }).selectOption('2');
  const file = recorded('alone');
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  await context.setOffline(true);
  await page.getByLabel('Read a sound file').setInputFiles(file);
  const line = recordings(page).getByRole('listitem').filter({ hasText: 'alone' });
  await expect(line).toContainText('cylinder 2 cut out');
  await expect(line).toContainText('waits on this device');
  // It is heard from the device meanwhile.
  await line.getByRole('button', { name: 'Hear it' }).click();
  await expect(line.locator('audio')).toHaveAttribute('src', /^blob:/);
  await context.setOffline(false);
  await expect
    .poll(
      async () => (await record(page, id)).sounds.some((s) => s.fileName === 'alone.wav' && s.cutOut === 2),
      {
        timeout: 40_000,
      },
    )
    .toBe(true);
});

test('the demo’s recordings name the load, and by what was cut out the rod', async ({ page }) => {
  await listenTo(page, 'Biogas generator');
  await page.getByRole('button', { name: 'Listen', exact: true }).click();
  const compared = page.getByRole('region', { name: 'Recordings compared' });
  await expect(compared.getByText('louder when it pulls than when it runs light')).toBeVisible({
    timeout: 30_000,
  });
  await expect(compared.getByText('with cylinder 4 cut out the noise goes')).toBeVisible();
  const test4 = page.getByRole('region', { name: 'Cut-out test' });
  await expect(test4.getByText('With cylinder 4 silent the knock goes')).toBeVisible();
});

test('what is no recording, or silent, says what to do', async ({ page }) => {
  await listenTo(page, 'Refrigerated trailer');
  const bad = join(mkdtempSync(join(tmpdir(), 'heard-')), 'letter.wav');
  writeFileSync(bad, 'no sound');
  await page.getByLabel('Read a sound file').setInputFiles(bad);
  await expect(page.getByRole('alert')).toContainText('letter cannot be read as a sound.');
  await expect(page.getByRole('button', { name: 'Save it as it is' })).toBeVisible();
  // Nothing, at 44.1 kHz for three seconds.
  const silent = Buffer.alloc(44 + 44_100 * 2 * 3);
  silent.write('RIFF', 0);
  silent.writeUInt32LE(silent.length - 8, 4);
  silent.write('WAVEfmt ', 8);
  silent.writeUInt32LE(16, 16);
  silent.writeUInt16LE(1, 20);
  silent.writeUInt16LE(1, 22);
  silent.writeUInt32LE(44_100, 24);
  silent.writeUInt32LE(88_200, 28);
  silent.writeUInt16LE(2, 32);
  silent.writeUInt16LE(16, 34);
  silent.write('data', 36);
  silent.writeUInt32LE(silent.length - 44, 40);
  const name = `silent ${Date.now()}`;
  const file = join(mkdtempSync(join(tmpdir(), 'heard-')), `${name}.wav`);
  writeFileSync(file, silent);
  await page.getByLabel('Read a sound file').setInputFiles(file);
  const line = recordings(page).getByRole('listitem').filter({ hasText: name });
  await expect(line).toBeVisible();
  await expect(line).not.toContainText('waits on this device');
  await page.getByRole('button', { name: 'Listen', exact: true }).click();
  const shown = page.getByRole('group', { name: 'Recording that is shown' }).getByRole('button', { name });
  await expect(shown.or(page.getByRole('alert').filter({ hasText: 'Nothing is heard' }))).toBeVisible({
    timeout: 30_000,
  });
  if (await shown.isVisible()) await shown.click();
  await expect(page.getByRole('alert')).toContainText('Nothing is heard in it.');
});

test('a trainee listens to a drawn engine and is told', async ({ page }) => {
  await signIn(page, 'tomas');
  await page.goto('/practice');
  await page.getByRole('link', { name: 'Practise listening' }).click();
  await page.getByRole('button', { name: 'Any engine' }).click();
  await expect(page.getByRole('heading', { name: 'What do you hear?' })).toBeVisible({ timeout: 30_000 });
  // Engine 7 has one cylinder that does not fire: number 4.
  await page.goto('/practice/listen/7');
  await page.getByRole('button', { name: 'A cylinder does not fire' }).click();
  await page
    .getByRole('group', { name: 'Of which cylinder?' })
    .getByRole('button', { name: '4', exact: true })
    .click();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Commit and be told' }).click();
  await expect(page.getByText('Right.', { exact: true })).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText('The program hears that cylinder 4 does not fire.')).toBeVisible();
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
});

test('a trainee measures in a drawn picture and is told how far off', async ({ page }) => {
  await signIn(page, 'tomas');
  await page.goto('/practice/measure/5');
  await expect(page.getByRole('heading', { name: 'How wide is the gap of the ring?' })).toBeVisible({
    timeout: 30_000,
  });
  const picture = page.getByRole('img', { name: 'How wide is the gap of the ring?' });
  await expect(picture).toHaveJSProperty('complete', true);
  const box = (await picture.boundingBox())!;
  for (const [x, y] of [
    [0.48, 0.745],
    [0.53, 0.745],
    [0.48, 0.762],
  ] as const)
    await page.mouse.click(box.x + x * box.width, box.y + y * box.height);
  await expect(page.getByRole('region', { name: 'What was measured' })).toContainText('mm', {
    timeout: 30_000,
  });
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Commit and be told' }).click();
  await expect(page.getByText('The truth lies within what you told.')).toBeVisible({ timeout: 30_000 });
});
