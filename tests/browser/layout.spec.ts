import { expect, test } from '@playwright/test';
import {
  caseOf,
  expectAccessible,
  expectNoSidewaysScroll,
  goTo,
  newCase,
  phone,
  record,
  signIn,
  stage,
} from './shop';

test('a new case starts from a family, and every field of it can be changed', async ({ page }) => {
  await signIn(page);
  await page.goto('/new');
  await page.getByLabel('Start from').selectOption({ label: 'V8, pushrods' });
  await expect(page.getByText('camshaft in the valley')).toBeVisible();
  await expect(page.getByLabel('Firing order')).toHaveValue('1 8 4 3 6 5 7 2');
  await page.getByText('Fuel, air, oil and cooling').click();
  await page.getByRole('group', { name: 'Charged by' }).getByRole('button', { name: 'Blower' }).click();
  await page.getByText('Crankshaft and rods').click();
  await page.getByLabel('Mains stand after how many crankpins').fill('0 9');
  await expect(page.getByText('Main bearings cannot stand so')).toBeVisible();
  await page.getByLabel('Mains stand after how many crankpins').fill('0 1 2 3 4');
  await expect(page.getByText('Main bearings cannot stand so')).toBeHidden();
  await page.getByText('Valve gear', { exact: true }).click();
  await page
    .getByRole('group', { name: 'Camshaft driven by' })
    .getByRole('button', { name: 'Gears' })
    .click();
  await page.getByLabel('Teeth, from crankshaft to camshaft').fill('43 67 86');
  await expect(page.getByText('meet again after 134 turns')).toBeVisible();
  await expectAccessible(page);
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
  await page.getByLabel('Engine', { exact: false }).first().fill('Airboat eight with a blower');
  await page.getByRole('button', { name: 'Start the case' }).click();
  await expect(page).toHaveURL(/\/arrival/);
  const { layout } = await record(page, caseOf(page));
  expect(layout).toMatchObject({ cylinders: 8, charging: 'blower', mainsAfter: [0, 1, 2, 3, 4] });
});

test('a wrong layout is put right, and a part that nobody foresaw gets a place', async ({ page }) => {
  await signIn(page);
  await newCase(page, 'Laid out wrong');
  const id = caseOf(page);
  await page.getByRole('button', { name: 'Correct the layout' }).click();
  await page.getByText('Valve gear', { exact: true }).click();
  await page.getByRole('button', { name: '2 + 2' }).click();
  await page.getByText('Parts that only this engine has').click();
  await page.getByLabel(/^Address/).fill('hu');
  await page.getByLabel('What you call it').fill('idler hub');
  await page.getByLabel('Most like').selectOption({ label: 'idler gear' });
  await page.getByLabel('Runs with').fill('CA');
  await page.getByRole('button', { name: 'Give it a place' }).click();
  await page.getByRole('button', { name: 'See what would change' }).click();
  await page.getByText(/^Called otherwise/).click();
  await expect(page.getByText('V1A → V1A1', { exact: true })).toBeVisible();
  await expectAccessible(page);
  await page.getByLabel('Why', { exact: true }).fill('counted with the cover off');
  await page.getByRole('button', { name: 'Correct it' }).click();
  await expect(page.getByRole('button', { name: 'Correct the layout' })).toBeVisible();
  const { layout, renumberings } = await record(page, id);
  expect(layout).toMatchObject({ inletValves: 2, exhaustValves: 2 });
  expect(renumberings).toHaveLength(1);
  await stage(page, 'Look');
  await goTo(page, 'HU');
  await expect(page.getByRole('heading', { name: 'HU' })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Teeth pitted|^Gear teeth pitted/ }).first()).toBeVisible();
});
