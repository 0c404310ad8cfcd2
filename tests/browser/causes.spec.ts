import { expect, test } from '@playwright/test';
import { expectAccessible, expectNoSidewaysScroll, openDemo, openPage, phone, signIn } from './shop';

test('a word of a cause is changed for this shop, kept while it is typed, and taken back again', async ({
  page,
}) => {
  await signIn(page, 'ines');
  await openPage(page, 'Tools', 'Causes');
  await expect(page.getByText(/^\d+ causes/)).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('searchbox').fill('wrong way round');
  await page.getByRole('link', { name: /Piston fitted the wrong way round/ }).click();
  await expect(page.getByRole('heading', { name: 'Piston fitted the wrong way round' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Change it for this shop' }).click();
  const often = page.getByLabel('How often it leaves Hollow slap, fades warm');
  const before = await often.inputValue();
  await often.selectOption('rarely');
  // A closed tab loses nothing.
  await page.reload();
  await page.getByRole('button', { name: 'Change it for this shop' }).click();
  await expect(often).toHaveValue('rarely');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Use it from now on' }).click();
  await expect(page.getByRole('alert')).toContainText('Write what it rests on');
  await page.getByLabel(/^Why the shop says so/).fill('Five engines of one fleet');
  await page.getByRole('button', { name: 'Use it from now on' }).click();
  await expect(page.getByText('this shop’s')).toBeVisible();
  await expect(page.getByText('Changed by this shop, version 1')).toBeVisible();
  await expect(page.getByText('Five engines of one fleet')).toBeVisible();
  await expect(page.getByText(`rarely (came as ${before})`)).toBeVisible();
  await page.getByRole('button', { name: 'Change it', exact: true }).click();
  await page.getByLabel('How often met among engines on a bench').selectOption('sometimes');
  await page.getByLabel(/^Why the shop says so/).fill('And two more');
  await page.getByRole('button', { name: 'Use it from now on' }).click();
  await expect(page.getByText('Changed by this shop, version 2')).toBeVisible();
  await page.getByText('Earlier versions').click();
  await expect(page.getByText('Five engines of one fleet')).toBeVisible();
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
  await page.getByRole('button', { name: 'Back to how it came' }).click();
  await expect(page.getByText('this shop’s')).toBeHidden();
  await expect(page.getByText(/came as/)).toBeHidden();
});

test('a cause of the shop’s own is written, refused while something is missing, and offered to conclude with', async ({
  page,
}) => {
  await signIn(page, 'tomas');
  await page.goto('/causes');
  await page.getByRole('button', { name: 'Write a new cause' }).click();
  await page.getByLabel('Name').fill('Snow in the intake');
  await page.getByRole('button', { name: 'Use it from now on' }).click();
  await expect(page.getByRole('alert')).toContainText('The cause lacks a family');
  await expect(page.getByRole('alert')).toContainText('predicts nothing');
  await page.getByLabel('Family').fill('head, cooling and others');
  await page.getByLabel('Begins at').selectOption('engine');
  await page.getByLabel('Sits at the').selectOption('air-intake');
  await page.getByLabel('What happens first').fill('Snow is drawn in and melts on the element.');
  await page.getByLabel('Add a sign that it leaves').fill('Power low');
  const added = page.getByLabel(/^How often it leaves/);
  if ((await added.count()) === 0)
    await page.getByLabel('Add a sign that it leaves').fill('Heavy knock under load');
  await expect(added).toHaveCount(1);
  await added.selectOption('usually');
  await page.getByLabel('How to prove it').fill('Open the box while it is cold.');
  await page.getByLabel('What to change so that it does not return').fill('A hood that looks down.');
  await page.getByLabel('Where it comes from').fill('this shop, two winters');
  await page.getByLabel(/^Why the shop says so/).fill('Two snow ploughs');
  await page.getByRole('button', { name: 'Use it from now on' }).click();
  await expect(page.getByRole('heading', { name: /^Snow in the intake/ })).toBeVisible();
  await expect(page.getByText('Written by this shop, version 1')).toBeVisible();

  await openDemo(page, 'Biogas generator');
  await page.getByRole('link', { name: 'Trace', exact: true }).click();
  await page.getByText('Change my finding').click();
  await expect(page.getByLabel('Cause').getByRole('option', { name: 'Snow in the intake' })).toBeAttached();
  await expect(page.getByText('Whose doing: somebody’s earlier work')).toBeVisible();
  await expect(page.getByText('Agreed:')).toBeVisible();

  await page.goto('/causes/snow-in-the-intake');
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page).toHaveURL(/\/causes$/);
  await expect(page.getByRole('link', { name: /Snow in the intake/ })).toBeHidden();
});

test('what to look at next opens the capture for it in one tap', async ({ page }) => {
  await signIn(page, 'ines');
  await openDemo(page, 'Portable fire pump');
  await page.getByRole('link', { name: 'Trace', exact: true }).click();
  const next = page.getByRole('heading', { level: 2 }).filter({ hasText: / on / }).first();
  const [name] = (await next.innerText()).split(' on ');
  await page
    .getByRole('region', { name: 'In short' })
    .getByRole('link', { name: /^(Look at|Measure) it$/ })
    .click();
  await expect(page).toHaveURL(/\/(look|gauge)\?part=/);
  await expect(page.getByText(name!, { exact: false }).first()).toBeVisible();
});
