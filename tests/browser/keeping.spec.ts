import { expect, test } from '@playwright/test';
import { expectAccessible, expectNoSidewaysScroll, goTo, openDemo, phone, signIn, stage } from './shop';

test('a stack keeps its order and its faces, and a part in it is found from its tag', async ({ page }) => {
  await signIn(page, 'tomas');
  await openDemo(page, 'Biogas');
  await stage(page, 'Index');
  await page.getByRole('button', { name: 'Fill a bag, box or stack' }).click();
  await page.getByRole('button', { name: 'Stack', exact: true }).click();
  await page.getByLabel('What it holds').fill('inlet side, from outside in');
  await page.getByLabel('Thing 1', { exact: true }).fill('p5t');
  await expect(page.getByText(/^top .*ring.*cylinder 5/)).toBeVisible();
  await page.getByLabel('Which face of thing 1 is out').fill('dot up');
  await page.getByRole('button', { name: 'One more' }).click();
  await page.getByLabel('Thing 2', { exact: true }).fill('spacer, 6 mm');
  await page.getByLabel('How many of thing 2').fill('2');
  await page.getByRole('button', { name: 'Thing 2 one up' }).click();
  await page.getByLabel('Where it lies').fill('rack 7');
  await expectAccessible(page);
  // What is half typed outlives a reload.
  await page.reload();
  await page.getByRole('button', { name: 'Fill a bag, box or stack' }).click();
  await expect(page.getByLabel('Thing 1', { exact: true })).toHaveValue('spacer, 6 mm');
  await page.getByRole('button', { name: 'Save and name it' }).click();
  const stack = page.getByRole('listitem').filter({ hasText: 'STACK2' });
  await expect(stack.getByRole('listitem')).toHaveText([/1.*2 ×.*spacer, 6 mm/, /2.*P5T.*dot up/]);
  await goTo(page, 'P5T');
  await page.getByRole('button', { name: 'STACK2' }).click();
  await expect(page).toHaveURL(/bag=STACK2/);
  // A part lies in one place.
  await page.getByRole('button', { name: 'Fill a bag, box or stack' }).click();
  await page.getByLabel('Thing 1', { exact: true }).fill('P5T');
  await page.getByRole('button', { name: 'Save and name it' }).click();
  await expect(page.getByText('P5T lies in STACK2')).toBeVisible();
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
});

test('a second crankshaft is measured at its own places and leaves the engine’s alone', async ({ page }) => {
  await signIn(page, 'tomas');
  await openDemo(page, 'Trailer|trailer');
  await stage(page, 'Index');
  await page.getByRole('button', { name: 'Offer a part' }).click();
  await page.getByLabel('What is it?').selectOption('crankshaft');
  await page.getByLabel('What the shop calls it').fill('of the yellow donor');
  await page.getByRole('button', { name: 'Give it places' }).click();
  const offer = page.getByRole('listitem').filter({ hasText: 'of the yellow donor' });
  await expect(offer).toContainText('.N');
  await expectAccessible(page);
  await offer.getByRole('button', { name: 'Look at it in the engine' }).click();
  await expect(page.getByText(/thought into the engine/)).toBeVisible();
  await goTo(page, 'K2.N');
  await page.getByRole('tab', { name: 'Look' }).click();
  await page.getByRole('button', { name: 'All clear' }).click();
  await expect(page.getByText(/Checked, not there: \d+/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'The engine as it came' }).click();
  await expect(page.getByText(/thought into the engine/)).toHaveCount(0);
  await stage(page, 'Index');
  await expect(page.getByRole('listitem').filter({ hasText: 'of the yellow donor' })).toContainText(
    /\d+ entries/,
  );
  // Typed, its address leads to it from anywhere.
  await goTo(page, 'K2.N');
  await expect(page.getByRole('dialog').getByText('crankpin 2, of N')).toBeVisible();
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
});

test('another way through a script is written, and taken out with what it speaks of', async ({ page }) => {
  await signIn(page, 'ines');
  await page.goto('/scripts/outboard-three');
  await page.getByRole('button', { name: 'Add a way' }).click();
  await page.getByLabel('Name').fill('Lower case only');
  await page.getByLabel('When one goes it, and what it costs').fill('The head stays on.');
  await page
    .getByRole('group', { name: 'Leaves out' })
    .getByRole('button', { name: /^Head off/ })
    .click();
  await page
    .getByRole('group', { name: /^Ends at/ })
    .getByRole('button')
    .last()
    .click();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Into the script' }).click();
  await page.getByLabel('Why it is changed').fill('Two came with good heads.');
  await page.getByRole('button', { name: 'Keep it as ours' }).click();
  await expect(page.getByText('This shop’s, version 1, ines.')).toBeVisible();
  await page.reload();
  await expect(page.getByRole('button', { name: /^Lower case only/ })).toBeVisible();
});
