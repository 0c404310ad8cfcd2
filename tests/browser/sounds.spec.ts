import { expect, test } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expectAccessible, expectNoSidewaysScroll, openDemo, phone, signIn } from './shop';

const cli = fileURLToPath(
  new URL('../../src/VividSleuth.Cli/bin/Release/net10.0/sleuth.dll', import.meta.url),
);

/** A recording by the stand-in for a microphone beside an inline six. */
function recorded(name: string, ...options: string[]) {
  const file = join(mkdtempSync(join(tmpdir(), 'heard-')), `${name}.wav`);
  const of = [
    '--firing-order',
    '1-5-3-6-2-4',
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

test('a knock is heard, its cylinder named, and taken as a hint', async ({ page }) => {
  await signIn(page, 'tomas');
  await openDemo(page, 'Biogas generator');
  const id = /cases\/([0-9a-f-]{36})/.exec(page.url())![1]!;
  await page.goto(`/cases/${id}/arrival`);
  await page.getByRole('button', { name: 'Listen to it' }).click();
  await page.getByLabel('Read a sound file').setInputFiles(recorded('running', '--pickup', '1'));
  await page.getByLabel('The second channel is a clamp').selectOption('1');
  await page.getByLabel('Speed, rpm, if known').fill('1500');
  await page.getByRole('button', { name: 'Listen', exact: true }).click();
  const heard = page.getByRole('region', { name: 'What was heard' });
  await expect(heard.getByText('A knock once a cycle')).toBeVisible({ timeout: 30_000 });
  await expect(heard.getByText('likeliest of cylinder 3')).toBeVisible();
  await expectAccessible(page);
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
  await heard
    .getByRole('listitem')
    .filter({ hasText: 'Hollow slap' })
    .getByRole('button', { name: 'Take it' })
    .click();
  await expect(heard.getByRole('button', { name: 'Taken' })).toBeVisible();
  const findings = async () =>
    (
      (await (await page.request.get(`/api/cases/${id}`)).json()) as {
        findings: { sign: string; chance: number | null }[];
      }
    ).findings;
  await expect
    .poll(async () => (await findings()).filter((f) => f.sign === 'noise-slap' && f.chance !== null).length)
    .toBe(1);
  expect((await findings()).find((f) => f.chance !== null)!.chance).toBeLessThan(0.8);
});

test('what is no recording, or silent, says what to do', async ({ page }) => {
  await signIn(page, 'tomas');
  await openDemo(page, 'Biogas generator');
  await page.goto(page.url().replace(/(cases\/[0-9a-f-]{36}).*/, '$1/arrival'));
  await page.getByRole('button', { name: 'Listen to it' }).click();
  const bad = join(mkdtempSync(join(tmpdir(), 'heard-')), 'letter.wav');
  writeFileSync(bad, 'no sound');
  await page.getByLabel('Read a sound file').setInputFiles(bad);
  await expect(page.getByRole('alert')).toContainText('letter cannot be read as a sound.');
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
  const file = join(mkdtempSync(join(tmpdir(), 'heard-')), 'silent.wav');
  writeFileSync(file, silent);
  await page.getByLabel('Read a sound file').setInputFiles(file);
  await page.getByRole('button', { name: 'Listen', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('Nothing is heard in it.');
});
