import { expect, test, type Page } from '@playwright/test';
import {
  caseOf,
  expectAccessible,
  expectNoSidewaysScroll,
  kept,
  newCase,
  openDemo,
  openPage,
  phone,
  record,
  setGauge,
  signIn,
  stage,
  standInGauge,
} from './shop';

interface Read {
  place: string;
  typed: string;
  value: number;
  station: string;
  direction: string;
  readBy: string;
  via: string;
  temperature: number | null;
}

const readings = async (page: Page) => (await record(page, caseOf(page))).readings as Read[];

const figure = (page: Page) => page.getByLabel(/^Type the figure/);

async function type(page: Page, text: string) {
  await figure(page).fill(text);
  await figure(page).press('Enter');
}

async function setLimit(page: Page, name: string, fields: Record<string, string>) {
  await page.getByText('Add a limit').click();
  await page.getByLabel('Of what').selectOption({ label: name });
  await page.getByLabel('Source: manual and page').fill('workshop manual, page 4');
  for (const [label, text] of Object.entries(fields)) await page.getByLabel(label).fill(text);
  await page.getByRole('button', { name: 'Set the limit' }).click();
  await expect(page.getByRole('button', { name: `Strike the limit of ${name}` })).toBeVisible();
  await page.getByText('Add a limit').click();
}

test('a round goes by level and direction, asks about a slip, repeats, and ends with what is out and undecided', async ({
  page,
}) => {
  await signIn(page, 'ines');
  await newCase(page, 'Gauge round');
  await stage(page, 'Gauge');
  await setLimit(page, 'Crankpin diameter', { 'Standard size': '53.25', Least: '-.03', Most: '53.26' });
  await page.getByRole('button', { name: /^Crankpin diameter/ }).click();
  await expect(page.getByText('free-end side, in line with the throw')).toBeVisible();
  await page.getByLabel(/^Instrument \(/).selectOption('Caliper 150');
  await expect(page.getByText(/Too coarse/)).toBeVisible();
  await expect(page.getByText(/Calibration was due/)).toBeVisible();
  await page.getByLabel(/^Instrument \(/).selectOption('Micrometer 50–75');
  await expect(page.getByText(/Too coarse/)).toBeHidden();
  await page.getByText('Repeats, warmth').click();
  await page
    .getByRole('group', { name: 'Readings at each point' })
    .getByRole('button', { name: '2' })
    .click();
  await page.getByLabel('Part, °C').fill('22');
  await page.getByLabel(/Read off by/).fill('tomas');
  await type(page, '53.241');
  await expect(page.getByText('Here already: 53.241 mm')).toBeVisible();
  await type(page, '53.243');
  await expect(page.getByText('Crankpin diameter, 2 of 16')).toBeVisible();

  // A slip of the decimal point stays in the entry, is asked about, and is not written.
  await type(page, '532.42');
  await expect(page.getByText(/ten times too large/)).toBeVisible();
  await expect(figure(page)).toHaveValue('532.42');
  await type(page, '53.242');
  await type(page, '53.242');
  await expect(page.getByText('Crankpin diameter, 3 of 16')).toBeVisible();

  // Skipped and come back to.
  await page.getByRole('button', { name: 'Skip ▸' }).click();
  await page.getByRole('button', { name: '◂ Back' }).click();
  await page
    .getByRole('group', { name: 'Readings at each point' })
    .getByRole('button', { name: '1' })
    .click();
  for (const text of ['53.219', '53.219']) await type(page, text);
  for (let i = 0; i < 4; i++) await type(page, '53.10');
  await expect(page.getByText('Crankpin diameter, 9 of 16')).toBeVisible();
  await page.getByRole('button', { name: 'End the round' }).click();
  await expect(page.getByRole('heading', { name: 'Out' })).toBeVisible();
  await expect
    .poll(async () => (await readings(page)).map((r) => `${r.place} ${r.station} ${r.direction} ${r.typed}`))
    .toHaveLength(10);
  await expect(page.getByText('8 of 16 measured')).toBeVisible();
  await expectAccessible(page);
  const read = await readings(page);
  expect(read).toHaveLength(10);
  expect(read.every((r) => r.readBy === 'tomas' && r.temperature === 22)).toBe(true);
  expect(read[0]).toMatchObject({
    place: 'K1',
    station: 'free-end side',
    direction: 'in line with the throw',
  });
});

test('without a network a round goes on, asks by itself, survives a reload, and every reading arrives once and in order', async ({
  page,
  context,
}) => {
  await signIn(page);
  await newCase(page, 'Gauge without a network');
  await stage(page, 'Gauge');
  await setLimit(page, 'Crankpin diameter', { 'Standard size': '53.25' });
  await page.getByRole('button', { name: /^Crankpin diameter/ }).click();
  await type(page, '53.24');
  await expect(page.getByText('Crankpin diameter, 2 of 16')).toBeVisible();
  await kept(page, 'gauge');
  await context.setOffline(true);
  await type(page, '53.23');
  await expect(page.getByText('Crankpin diameter, 3 of 16')).toBeVisible();
  await expect(page.getByRole('button', { name: '1 to send' })).toBeVisible();
  await page.reload();
  await expect(page.getByText('Crankpin diameter, 3 of 16')).toBeVisible();
  // The bench asks by itself what the server would ask.
  await type(page, '2.096');
  await expect(page.getByText(/meant in inches/)).toBeVisible();
  await type(page, '53.22');
  await expect(page.getByText('Crankpin diameter, 4 of 16')).toBeVisible();
  // A figure that only the server can read is kept as typed and looked at when the network is back.
  await type(page, '+.1');
  await expect(page.getByText('Crankpin diameter, 5 of 16')).toBeVisible();
  await type(page, '1,234');
  await type(page, '1,234');
  await expect(page.getByText('Crankpin diameter, 6 of 16')).toBeVisible();
  await page.reload();
  await expect(page.getByRole('button', { name: '4 to send' })).toBeVisible();
  await context.setOffline(false);
  await page.getByRole('button', { name: /to send/ }).click();
  const queue = page.getByRole('dialog');
  await queue.getByRole('button', { name: 'Send now' }).click();
  await expect(queue.getByText(/decimal comma or a thousands mark/)).toBeVisible();
  // What the server asks about is put right where it waits.
  await queue.getByLabel('Figure of K2').fill('53.21');
  await queue.getByRole('button', { name: 'Send the corrected one' }).click();
  await expect(queue).toBeHidden();
  await expect(page.getByRole('button', { name: /to (send|look at)/ })).toBeHidden();
  const read = await readings(page);
  expect(read.map((r) => r.typed)).toEqual(['53.24', '53.23', '53.22', '+.1', '53.21']);
  expect(read.map((r) => Number(r.value.toFixed(3)))).toEqual([53.24, 53.23, 53.22, 53.35, 53.21]);
});

test('without a gauge it is said that there is none', async ({ page }) => {
  await signIn(page, 'ines');
  await setGauge(page, '');
  await newCase(page, 'No gauge');
  await stage(page, 'Gauge');
  await page.getByRole('button', { name: /^Crankpin diameter/ }).click();
  await page.getByText('Repeats, warmth').click();
  await expect(page.getByText(/No gauge is set in this shop/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Listen to the gauge' })).toBeHidden();
});

test('the gauge on the line fills one point after the other, and inches sent as millimetres stop it', async ({
  page,
}) => {
  await signIn(page, 'ines');
  const stop = await standInGauge(page, '--around', '53.25', '--pace', '2000', '--wrong-unit-from', '4');
  await newCase(page, 'Gauge on the line');
  await stage(page, 'Gauge');
  await setLimit(page, 'Crankpin diameter', { 'Standard size': '53.25' });
  await page.getByRole('button', { name: /^Crankpin diameter/ }).click();
  await page.getByText('Repeats, warmth').click();
  await page.getByRole('button', { name: 'Listen to the gauge' }).click();
  await expect(page.getByText('Crankpin diameter, 2 of 16')).toBeVisible();
  await expect(page.getByText('The gauge is on.')).toBeVisible();
  await expect(page.getByText('Crankpin diameter, 4 of 16')).toBeVisible();
  // Its fourth reading comes in inches and is called millimetres.
  await expect(page.getByText(/meant in inches/)).toBeVisible();
  await page.getByRole('button', { name: 'Stop listening to the gauge' }).click();
  await expect.poll(async () => (await readings(page)).length).toBe(3);
  const taken = await readings(page);
  expect(taken.every((r) => r.value > 53 && r.value < 54)).toBe(true);
  expect(taken.every((r) => /^Simulated bore gauge, 127\.0\.0\.1:\d+$/.test(r.via))).toBe(true);
  // One reading to a point: none is entered twice, none runs ahead of the gauge.
  expect(new Set(taken.map((r) => `${r.place}/${r.station}/${r.direction}`)).size).toBe(3);
  stop();
  await setGauge(page, '');
});

test('a micrometer is read by its lines, and the picture turns to match', async ({ page }) => {
  await page.setViewportSize(phone);
  await signIn(page);
  await newCase(page, 'Thimble');
  await stage(page, 'Gauge');
  await page.getByRole('button', { name: /^Crankpin diameter/ }).click();
  await page.getByRole('button', { name: 'inch', exact: true }).click();
  await page.getByRole('button', { name: 'Micrometer help (sleeve and thimble)' }).click();
  await page.getByRole('textbox', { name: /^Lines bare/ }).fill('3');
  await page.getByRole('textbox', { name: /^Division of the thimble/ }).fill('21');
  await page.getByRole('button', { name: /^Division of the thimble .*more/ }).click();
  await expect(page.getByRole('img', { name: 'Micrometer at 2.0970 in' })).toBeVisible();
  await expectNoSidewaysScroll(page);
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Enter' }).click();
  await expect(page.getByText('Crankpin diameter, 2 of 16')).toBeVisible();
  // The round goes on before the server has it.
  await expect
    .poll(async () => (await readings(page))[0])
    .toMatchObject({ typed: '2|3|22|0', value: 53.2638 });
});

test('the sheet shows figures with pictures, and every figure opens to its budget', async ({ page }) => {
  await signIn(page, 'ines');
  await openDemo(page, 'big end 4');
  await stage(page, 'Gauge');
  for (const tab of [
    'Bores and pistons',
    'Rings',
    'Crankshaft',
    'Mains and block',
    'Head and valves',
    'Running figures',
    'Everything',
    'Rods and shells',
  ]) {
    await page.getByRole('button', { name: new RegExp(`^${tab}`) }).click();
    await expectAccessible(page);
  }
  await page.getByRole('button', { name: 'inch', exact: true }).click();
  await expect(page.getByRole('button', { name: /Big-end clearance of R4, 0\.0131/ }).first()).toBeVisible();
  await page.getByRole('button', { name: 'mm', exact: true }).click();
  await page.getByRole('button', { name: /Big-end clearance of R4, 0\.332/ }).click();
  const budget = page.getByRole('dialog');
  await expect(budget.getByText(/permissible error of Ball micrometer/)).toBeVisible();
  await expect(budget.getByText(/outside/)).toBeVisible();
  await expectAccessible(page);
  await budget.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Reckon the oil film of the big ends' }).click();
  await expect(page.getByText(/short bearing 0\.0/).first()).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /spreadsheet/ }).click();
  expect((await download).suggestedFilename()).toMatch(/. sheet\.xlsx$/);
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
});

test('a table of limits with a bad row names row and column and keeps the good ones only when asked', async ({
  page,
}) => {
  await signIn(page, 'ines');
  await newCase(page, 'Limits from a table');
  await stage(page, 'Gauge');
  await page.getByLabel('CSV with limits').setInputFiles({
    name: 'limits.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      '\uFEFFcharacteristic;nominal;most;source_text\nbore-diameter;88,000;88,020;p. 3\nshell-wall;dick;;p. 4\n',
    ),
  });
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('Row 3, column nominal:')).toBeVisible();
  await expect(dialog.getByText('Nothing entered: 1 row is wrong.')).toBeVisible();
  await dialog.getByRole('button', { name: 'Enter the good rows only' }).click();
  await expect(dialog.getByText('1 entered; 1 rows were left out.')).toBeVisible();
  await dialog.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByText('standard 88.000')).toBeVisible();

  // The same readings twice, since nobody saw the first answer: they stand there once.
  for (const told of ['2 readings entered.', '2 stand here already: the table was sent before.']) {
    await page.getByLabel('CSV with readings').setInputFiles({
      name: 'readings.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('place,characteristic,typed\nC1,bore-diameter,88.01\nC2,bore-diameter,88.02\n'),
    });
    await expect(dialog.getByText(told)).toBeVisible();
    await dialog.getByRole('button', { name: 'Close' }).click();
  }
});

test('bench reckoners work without a case and say what is wrong with a figure; instruments are kept', async ({
  page,
}) => {
  await signIn(page, 'ines');
  await openPage(page, 'Tools', 'Calculators');
  await page.getByRole('link', { name: 'Compression ratio' }).click();
  await expect(page.getByText('9.19')).toBeVisible();
  await page.getByLabel('Chamber in the head, cm³').fill('45');
  await expect(page.getByText('9.19')).toBeHidden();
  await page.getByLabel('Bore, mm').fill('wide');
  await expect(page.getByText(/“wide” is no figure/)).toBeVisible();
  await expectAccessible(page);
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
  await page.setViewportSize({ width: 1280, height: 800 });

  await page.goto('/instruments');
  await expectAccessible(page);
  const name = `Depth gauge ${Date.now()}`;
  await page.getByLabel('Name').fill(name);
  await page.getByRole('combobox', { name: 'Kind' }).selectOption('depthMicrometer');
  await page.getByRole('button', { name: 'Take it up' }).click();
  const step = page.getByLabel(/^Smallest step/);
  await expect(step).toBeFocused();
  await expect(step).toHaveAccessibleDescription('A number is needed here.');
  await step.fill('0.01');
  await page.getByLabel(/^Largest error/).fill('0.02');
  await page.getByRole('button', { name: 'Take it up' }).click();
  await expect(page.getByRole('listitem').filter({ hasText: name })).toBeVisible();
});

test('three people measure the same parts, nobody sees the others’ figures, and the instrument learns of it', async ({
  page,
}) => {
  await signIn(page, 'ines');
  await page.goto('/studies');
  await expect(page.getByText('One hand scatters', { exact: true })).toBeVisible();
  await expectAccessible(page);
  await page.getByText('Plan a study').click();
  const name = `Bench study ${Date.now()}`;
  await page.getByRole('button', { name: 'Begin the study' }).click();
  await expect(page.getByLabel('Name')).toHaveAccessibleDescription(/Say what is measured/);
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('What is measured').selectOption({ label: 'Crankpin diameter' });
  await page.getByLabel('With what').selectOption({ label: 'Micrometer 75–100' });
  await page.getByLabel(/^Parts/).fill('first pin\nsecond pin');
  await page.getByLabel(/^People/).fill('Ines\nTomas');
  await page.getByLabel(/^How often/).fill('2');
  await page.getByRole('button', { name: 'Begin the study' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
  const figure = page.getByLabel(/^Figure, mm/);
  for (const [person, figures] of [
    ['Ines', ['80.001', '80.051', '80.002', '80.050']],
    ['Tomas', ['80.004', '80.055', '80.005', '80.054']],
  ] as const) {
    await page.getByRole('button', { name: person, exact: true }).click();
    for (const [n, typed] of figures.entries()) {
      await expect(page.getByText(`reading ${n < 2 ? 1 : 2} of 2`)).toBeVisible();
      await figure.fill(typed);
      await Promise.all([page.waitForResponse(/gauge-studies\/.*\/readings/), figure.press('Enter')]);
      if (person === 'Ines' && n === 0) await expect(page.getByText('80.001')).toBeHidden();
    }
  }
  await expect(page.getByText(/Tomas reads 0.002 more/)).toBeVisible();
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole('button', { name: 'Give it to Micrometer 75–100' }).click();
  await expect(page.getByText('It is in every figure read with it.')).toBeVisible();
  await page.goto('/instruments');
  await expect(page.getByRole('listitem').filter({ hasText: name })).toContainText('Micrometer 75–100');
});

test('a dimension that nobody foresaw is named, read and kept; a finding is felt and not opened', async ({
  page,
}) => {
  await signIn(page, 'ines');
  await newCase(page, `Named dimension ${Date.now()}`);
  await page.goto(`/cases/${caseOf(page)}/gauge?part=EN`);
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('combobox', { name: 'Measure' }).selectOption('anew');
  await dialog.getByLabel('What it is called').fill('Fan hub bore');
  await dialog.getByLabel('Fan hub bore of EN').fill('40.12');
  await dialog.getByLabel('Fan hub bore of EN').press('Enter');
  await expect(dialog.getByRole('button', { name: /Fan hub bore of EN/ })).toContainText('40.12');

  await page.goto(`/cases/${caseOf(page)}/look?part=P1`);
  await page
    .getByRole('button', { name: /^Skirt scuffed on the thrust side/ })
    .first()
    .click();
  await page.getByLabel(/^Felt, not opened/).check();
  await page
    .getByRole('button', { name: /^Not there/ })
    .first()
    .click();
  await expect(page.getByText(/felt, not opened/).first()).toBeAttached();
});
