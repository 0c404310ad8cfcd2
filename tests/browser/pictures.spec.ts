import { expect, test, type Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { seeing } from './camera';
import { expectAccessible, expectNoSidewaysScroll, openDemo, phone, signIn } from './shop';

const cli = fileURLToPath(
  new URL('../../src/VividSleuth.Cli/bin/Release/net10.0/sleuth.dll', import.meta.url),
);

interface Drawn {
  file: string;
  truth: number;
  points: number[];
}

/** A photograph by the stand-in for a camera, and what is true of it. */
function drawn(scene: string): Drawn {
  const file = join(mkdtempSync(join(tmpdir(), 'drawn-')), `${scene}.jpg`);
  const told = execFileSync('dotnet', [cli, 'draw', scene, file, '--seed', '7']).toString();
  return { file, ...(JSON.parse(told) as { truth: number; points: number[] }) };
}

/** Takes the photograph of a part in, and opens it to measure in it. */
async function openPicture(page: Page, of: Drawn, part: string, caption: string) {
  await openDemo(page, 'Biogas generator');
  const id = /cases\/([0-9a-f-]{36})/.exec(page.url())![1]!;
  const sent = await page.request.post(`/api/cases/${id}/photos`, {
    multipart: {
      id: crypto.randomUUID(),
      place: part,
      caption,
      file: { name: `${caption}.jpg`, mimeType: 'image/jpeg', buffer: readFileSync(of.file) },
    },
  });
  expect(sent.ok()).toBe(true);
  await page.goto(`/cases/${id}/look?part=${part}`);
  await page.getByRole('img', { name: caption }).last().click();
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await expect(page.getByText(/^Card \d+ found/)).toBeVisible();
  return id;
}

async function setPoints(page: Page, task: string, points: number[]) {
  await page.getByRole('button', { name: task, exact: true }).click();
  const box = (await page.getByRole('img', { name: /^Points set/ }).boundingBox())!;
  for (let i = 0; i < points.length; i += 2)
    await page.mouse.click(box.x + points[i]! * box.width, box.y + points[i + 1]! * box.height);
}

test('a hatch is measured in a picture, kept as a reading, and stands on the sheet', async ({ page }) => {
  await signIn(page, 'tomas');
  const hatch = drawn('Hatch');
  const id = await openPicture(page, hatch, 'C2', 'drawn hatch');
  await setPoints(page, 'Hatch', hatch.points);
  const answer = page.getByRole('region', { name: 'What was measured' });
  await expect(answer).toBeVisible();
  const [, value, within] = /([\d.]+)\s*°[^±]*±\s*([\d.]+)/.exec(
    (await answer.innerText()).replaceAll('\n', ' '),
  )!;
  expect(Math.abs(Number(value) - hatch.truth)).toBeLessThan(Number(within));
  await expectAccessible(page);
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
  await page.setViewportSize({ width: 1280, height: 800 });
  // The one figure of a bore that is an angle of its hatch is offered by itself.
  await page.getByLabel('As a reading of').selectOption({ label: 'Cross-hatch angle' });
  await page.getByRole('button', { name: 'Keep as a reading' }).click();
  const kept = page.getByRole('region', { name: 'Measured in this picture' });
  await expect(kept.getByText(/card 8/)).toBeVisible();
  const whole = (await (await page.request.get(`/api/cases/${id}`)).json()) as {
    readings: { picture: string | null; place: string; standard: number }[];
  };
  // One came with the demo, and this is another.
  const readings = whole.readings.filter((r) => r.picture !== null);
  expect(readings.map((r) => r.place)).toEqual(['C2', 'C2']);
  expect(readings.every((r) => r.standard > 0)).toBe(true);
  await kept.getByRole('button', { name: 'Take Hatch back' }).click();
  await expect(kept).toBeHidden();
});

test('two points close together are two, and a point that is dragged is moved', async ({ page }) => {
  await signIn(page, 'tomas');
  const gap = drawn('RingGap');
  await openPicture(page, gap, 'P2T', 'gap of a ring');
  await setPoints(page, 'Strip or gap', gap.points);
  await expect(page.getByRole('img', { name: 'Points set: 3' })).toBeVisible();
  const answer = page.getByRole('region', { name: 'What was measured' });
  const figure = async () => Number(/([\d.]+) mm/.exec(await answer.innerText())![1]);
  await expect.poll(figure).toBeCloseTo(gap.truth, 1);
  const box = (await page.getByRole('img', { name: /^Points set/ }).boundingBox())!;
  await page.mouse.move(box.x + gap.points[2]! * box.width, box.y + gap.points[3]! * box.height);
  await page.mouse.down();
  await page.mouse.move(box.x + (gap.points[2]! + 0.02) * box.width, box.y + gap.points[3]! * box.height, {
    steps: 4,
  });
  await page.mouse.up();
  await expect(page.getByRole('img', { name: 'Points set: 3' })).toBeVisible();
  await expect.poll(figure).toBeCloseTo(gap.truth, 1);
});

test('particles in a picture are counted and become debris with its likely sources', async ({ page }) => {
  await signIn(page, 'tomas');
  const tray = drawn('Particles');
  await openPicture(page, tray, 'PA', 'tray under the pan');
  await setPoints(page, 'Particles', tray.points);
  const table = page.getByRole('table', { name: 'Classes of sizes (ISO 16232)' });
  await expect(table).toBeVisible();
  await page.getByRole('button', { name: 'Metal, magnet takes it' }).click();
  await page.getByRole('button', { name: 'Enter as debris' }).click();
  await expect(page.getByText('its likely sources stand with the debris of PA')).toBeVisible();
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByText(/^Counted in tray under the pan/)).toBeVisible();
});

test('before the shutter the camera tells whether the card is seen', async ({ page, baseURL }) => {
  await signIn(page, 'tomas');
  await openDemo(page, 'Biogas generator');
  const card = await page.request.get('/api/pictures/card.pdf?number=77');
  const at = page.url();
  const browser = await seeing(await card.body(), 100);
  const eye = await browser.newPage({ baseURL: baseURL! });
  await signIn(eye, 'tomas');
  await eye.goto(at.replace(/\/[a-z]+(\?.*)?$/, '/look?part=C3'));
  await eye.getByRole('button', { name: 'With the scale card' }).click();
  await expect(eye.getByText('Card seen, sharp and square enough: take it.')).toBeVisible();
  await eye.getByRole('button', { name: 'Take it', exact: true }).click();
  await expect(eye.getByText('taken: 1')).toBeVisible();
  await browser.close();
});

/** A picture that the browser itself draws, at a part of the trailer’s engine, opened to be measured. */
async function measuring(page: Page, place: string, draw: (pen: CanvasRenderingContext2D) => void) {
  await signIn(page, 'tomas');
  await openDemo(page, 'Refrigerated trailer');
  const id = /cases\/([0-9a-f-]{36})/.exec(page.url())![1]!;
  const file = await page.evaluate(`(() => {
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [640, 480];
    const pen = canvas.getContext('2d');
    pen.fillStyle = '#595959';
    pen.fillRect(0, 0, 640, 480);
    pen.fillStyle = '#cccccc';
    (${draw.toString()})(pen);
    return canvas.toDataURL('image/jpeg', 0.9).split(',')[1];
  })()`);
  const caption = `Patch ${Date.now()}`;
  await page.request.post(`/api/cases/${id}/photos`, {
    multipart: {
      id: crypto.randomUUID(),
      place,
      caption,
      file: { name: 'part.jpg', mimeType: 'image/jpeg', buffer: Buffer.from(file as string, 'base64') },
    },
  });
  await page.goto(`/cases/${id}/look?part=${place}`);
  await page.getByRole('img', { name: caption }).last().click();
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
}

/** Sets points of a picture of 640 by 480. */
async function tap(page: Page, points: readonly (readonly [number, number])[]) {
  const box = (await page.getByRole('img', { name: /^Points set/ }).boundingBox())!;
  for (const [x, y] of points)
    await page.mouse.click(box.x + (x / 640) * box.width, box.y + (y / 480) * box.height);
  await expect(page.getByRole('region', { name: 'What was measured' })).toContainText('%', {
    timeout: 30_000,
  });
}

test('a patch is grown by its light, laid on the map, and goes to Look with its zones', async ({ page }) => {
  // A shell with a light patch at its left.
  await measuring(page, 'R3U', (pen) => pen.fillRect(40, 40, 60, 200));
  await page.getByRole('button', { name: 'Patch by its light' }).click();
  await expect(page.getByRole('button', { name: 'Patch of the wall by its light' })).toHaveCount(0);
  await tap(page, [
    [40, 40],
    [600, 40],
    [600, 440],
    [40, 440],
    [70, 120],
  ]);
  await page.getByLabel('The face is').selectOption({ index: 1 });
  const lies = page.getByRole('region', { name: 'Where on the part it lies' });
  await expect(lies).toContainText('left parting line', { timeout: 30_000 });
  await expectAccessible(page);
  await lies.getByRole('link', { name: 'Record it in Look with these zones' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page.getByText('Choose the sign: where it lies was taken from the picture.')).toBeVisible();
  await page.getByRole('button', { name: 'Shiny patch' }).first().click();
  await page.getByRole('button', { name: /^2 moderate/ }).click();
  // The map is open with what the picture told.
  await expect(
    page.getByRole('button', { name: /left parting line|left shoulder/, pressed: true }).first(),
  ).toBeVisible();
});

test('a patch on the wall of a bore is told by its two edges, seen from above', async ({ page }) => {
  // At three o’clock of the picture, from near the upper edge to near the middle of the wall.
  await measuring(page, 'C2', (pen) => {
    pen.beginPath();
    pen.arc(320, 240, 205, -0.4, 0.4);
    pen.arc(320, 240, 165, 0.4, -0.4, true);
    pen.fill();
  });
  await page.getByRole('button', { name: 'Patch of the wall by its light' }).click();
  await expect(page.getByText('the piston out')).toBeVisible();
  await tap(page, [
    [320, 20],
    [510, 350],
    [130, 350],
    [320, 130],
    [415, 295],
    [225, 295],
    [505, 240],
  ]);
  await page.getByRole('combobox', { name: /^The face is/ }).selectOption({ index: 1 });
  await page
    .getByRole('combobox', { name: /^Toward the camera, or up/ })
    .selectOption({ label: '12 o’clock' });
  const lies = page.getByRole('region', { name: 'Where on the part it lies' });
  await expect(lies).toContainText('3 o’clock', { timeout: 30_000 });
  await expect(page.getByRole('region', { name: 'What was measured' })).toHaveAttribute('aria-busy', 'false');
  await expectAccessible(page);
  await lies.getByRole('link', { name: 'Record it in Look with these zones' }).click();
  await expect(page.getByText('Choose the sign: where it lies was taken from the picture.')).toBeVisible();
});
