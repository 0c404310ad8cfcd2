import { expect, test } from '@playwright/test';
import { expectAccessible, expectNoSidewaysScroll, openPage, phone, signIn, stage } from './shop';

test('a kind is changed with its reason, and its next case begins with its figures', async ({ page }) => {
  await signIn(page, 'tomas');
  await openPage(page, 'Shop', 'Kinds of engines');
  await page.getByRole('link', { name: /^Tarnlund L-3/ }).click();
  await expect(page.getByRole('heading', { name: 'Tarnlund L-3' })).toBeVisible();
  await expect(page.getByText('new 76.00 mm; 76.00 to 76.02 mm; wears to 76.12 mm')).toBeVisible();
  await page.getByRole('button', { name: 'Add a limit' }).click();
  await page.getByLabel('Of what').selectOption({ label: 'Piston clearance' });
  await page.getByLabel('Most', { exact: true }).fill('0.15');
  await page.getByLabel('Manual and page').fill('bulletin 4');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByText(/bulletin 4\), not saved yet/)).toBeVisible();
  // What is not saved yet outlives a reload.
  await page.reload();
  await expect(page.getByText(/bulletin 4\), not saved yet/)).toBeVisible();
  await page.getByRole('button', { name: 'Save as version 2' }).click();
  await expect(page.getByText('Say why: a page, a bulletin, a mistake.')).toBeVisible();
  await page.getByLabel('Why it is changed').fill('A bulletin came.');
  await page.getByRole('button', { name: 'Save as version 2' }).click();
  await expect(page.getByText('at most 0.15 mm; bulletin 4')).toBeVisible();

  await page.getByRole('link', { name: 'New case of it' }).click();
  await expect(page.getByLabel(/^Engine/)).toHaveValue('Tarnlund L-3');
  await page.getByLabel('Title of the case').fill('Lifeboat five, will not start');
  await page.getByRole('button', { name: 'Start the case' }).click();
  await expect(page.getByText(/judged by version 2/)).toBeVisible();
  await stage(page, 'Gauge');
  await expect(page.getByText('bulletin 4').first()).toBeVisible();

  // It stays by its version when the kind moves on, until somebody takes the new one.
  const at = page.url();
  await page.goto('/kinds');
  await page.getByRole('link', { name: /^Tarnlund L-3/ }).click();
  await page.getByRole('button', { name: 'Take out Ring end gap' }).click();
  await page.getByLabel('Why it is changed').fill('Of another engine.');
  await page.getByRole('button', { name: 'Save as version 3' }).click();
  await expect(page.getByRole('button', { name: 'Take out Ring end gap' })).toHaveCount(0);
  await page.goto(at);
  await stage(page, 'Arrival');
  await page.getByText(/judged by version 2, version 3 stands/).click();
  await expect(page.getByText('the kind no longer says it')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Take 1 into this case' }).click();
  await expect(page.getByText(/judged by version 3/)).toBeVisible();
});

test('the fleet tells what is due, and a meter that is read moves it', async ({ page }) => {
  await signIn(page, 'tomas');
  await page.setViewportSize(phone);
  await page.goto('/fleet');
  await page.getByRole('link', { name: /^Lifeboat 3/ }).click();
  await expect(page.getByText('never noted; counted from its first hour').first()).toBeVisible();
  await expectNoSidewaysScroll(page);
  await page.getByLabel('Hours it shows').fill('100');
  await page.getByLabel('Done at that reading').selectOption({ label: 'Change the oil' });
  await page.getByRole('button', { name: 'Enter it' }).click();
  await expect(page.getByText(/If the meter was changed, say so/)).toBeVisible();
  await page.getByLabel('Hours it shows').fill('260');
  await page.getByRole('button', { name: 'Enter it' }).click();
  await expect(page.getByText('100 h left')).toBeVisible();
  await expectAccessible(page);
});

test('all cases are searched by misspelt words and by what was found', async ({ page }) => {
  await signIn(page, 'tomas');
  await page.goto('/search');
  await page.getByLabel('Words to look for').fill('scufed piston');
  await expect(page.getByText(/No case has “scufed”; looked for scuffed/)).toBeVisible();
  await expect(page.getByRole('link', { name: /seized on a drill/ })).toBeVisible();
  await page.getByText('Pick out by sign').click();
  await page.getByLabel('On which part').selectOption('crankpin');
  await expect(page.getByRole('link', { name: /seized on a drill/ })).toHaveCount(0);
  await page.getByLabel('On which part').selectOption('piston');
  await expect(page.getByRole('link', { name: /seized on a drill/ })).toBeVisible();
  await expectAccessible(page);
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
});
