import { expect, test, type Page } from '@playwright/test';
import { expectAccessible, expectNoSidewaysScroll, opened, openDemo, phone, signIn, stage } from './shop';

const view = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Verdict' }).getByRole('button', { name }).click();

test('a group is decided at one touch, one place of it otherwise, and both are taken back', async ({
  page,
}) => {
  await signIn(page, 'tomas');
  await openDemo(page, 'boiled over');
  await stage(page, 'Verdict');
  await opened(page);
  const rows = page.getByRole('button', { expanded: false });
  expect(await rows.count()).toBeLessThan(16);
  await page.getByRole('button', { name: /^Big-end shells/ }).click();
  const renew = page.getByRole('article').filter({ hasText: 'Renew' }).first();
  await renew.getByRole('button', { name: 'R1U', exact: true }).click();
  await renew.getByRole('button', { name: /^Decide: Renew, 7 places/ }).click();
  await expect(renew.getByText('✓ Renew')).toBeVisible();
  await expect(page.getByText('7 of 8 decided')).toBeVisible();
  // One of them otherwise: only with a reason.
  await renew.getByLabel('Course').selectOption({ label: 'Clean and reuse' });
  const decide = renew.getByRole('button', { name: /^Decide: Clean and reuse, R1U/ });
  await expect(decide).toBeDisabled();
  await renew.getByLabel(/^Why, as it is not/).fill('Kept in for the dynamometer run tomorrow.');
  await decide.click();
  await expect(page.getByText('1 otherwise than advised')).toBeVisible();
  await expect(renew.getByText('Advised then: Renew.', { exact: false })).toBeVisible();
  await expectAccessible(page);
  const seven = renew.getByRole('listitem').filter({ hasText: '✓ Renew' });
  await seven.getByRole('button', { name: 'Take back' }).click();
  await seven.getByRole('textbox', { name: 'Why', exact: true }).fill('Wrong engine on the bench.');
  await seven.getByRole('button', { name: 'Take back' }).last().click();
  await expect(page.getByText('1 of 8 decided')).toBeVisible();
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
});

test('what fits what says it in words, and the grid holds it', async ({ page }) => {
  await signIn(page, 'tomas');
  await openDemo(page, 'boiled over');
  await stage(page, 'Verdict');
  await view(page, 'What fits what');
  await opened(page);
  await expect(page.getByRole('heading', { name: 'Pistons to bores' })).toBeVisible();
  await expect(page.getByText(/every piston fits between/).first()).toBeVisible();
  await expectAccessible(page);
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
});

test('options are entered, told apart, chosen with a reason and kept over a reload', async ({ page }) => {
  await signIn(page, 'ines');
  await openDemo(page, 'boiled over');
  await stage(page, 'Verdict');
  await view(page, 'Options');
  await opened(page);
  await expect(page.getByText('✓ Chosen: Liners, pistons and a rebuilt head')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'New option', exact: true }).click();
  await page.getByLabel('What the option is called').fill('Rings alone');
  await page.getByRole('button', { name: '+ Part', exact: true }).click();
  await page.getByLabel('What for').first().fill('Set of rings');
  await page.getByLabel('Price of one').fill('-3');
  await page.getByRole('button', { name: 'Enter the option' }).click();
  await expect(page.getByRole('alert').first()).toBeVisible();
  await page.getByLabel('Price of one').fill('84.50');
  await page.getByLabel('New rings in a worn bore', { exact: false }).check();
  // What was typed outlives a reload.
  await page.reload();
  await page.getByRole('button', { name: 'New option', exact: true }).click();
  await expect(page.getByLabel('What the option is called')).toHaveValue('Rings alone');
  await page.getByRole('button', { name: 'Enter the option' }).click();
  const card = page
    .locator('section')
    .filter({ has: page.getByRole('heading', { name: 'Rings alone' }) })
    .last();
  await expect(card.getByText('84.50 EUR').first()).toBeVisible();
  await expect(page.getByText('What would change the choice')).toBeVisible();
  await card.getByRole('button', { name: 'Take back' }).click();
  await card.getByRole('textbox', { name: 'Why' }).fill('Only tried.');
  await card.getByRole('button', { name: 'Take back' }).last().click();
  await expect(page.getByRole('heading', { name: 'Rings alone' })).toHaveCount(0);
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
});
