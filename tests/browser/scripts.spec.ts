import { expect, test } from '@playwright/test';
import { expectAccessible, expectNoSidewaysScroll, openDemo, openPage, phone, signIn, stage } from './shop';

test('a script of the shop’s own is changed as a script, and kept with its reason', async ({ page }) => {
  await signIn(page, 'tomas');
  await openPage(page, 'Tools', 'Strip scripts');
  await expect(page.getByRole('heading', { name: 'This shop’s own' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('link', { name: /^Varn FT-2/ }).click();
  await page.getByRole('button', { name: /^Belt of the dry-sump pump off/ }).click();
  await page.getByRole('button', { name: 'Add a tick' }).click();
  await page.getByRole('textbox', { name: 'Tick 3' }).fill('Belt looked at for oil');
  await page.getByRole('checkbox', { name: 'not done without' }).last().check();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Into the script' }).click();
  // What stands in the form is not kept yet, and outlives a reload.
  await page.reload();
  const keep = page.getByRole('button', { name: 'Keep it as ours' });
  await expect(keep).toBeEnabled();
  await keep.click();
  await expect(page.getByText('Say why; it stays in the record of changes.')).toBeVisible();
  await page.getByLabel('Why it is changed').fill('The last belt was soaked, and nobody had looked.');
  await keep.click();
  await expect(page.getByText('This shop’s, version 2, tomas.')).toBeVisible();
  await openDemo(page, 'Hill-climb');
  await stage(page, 'Strip');
  await page.getByRole('button', { name: /Belt of the dry-sump pump off/ }).click();
  await expect(page.getByRole('checkbox', { name: /Belt looked at for oil/ })).toBeVisible();
});

test('another way is chosen and ends where it says; several parts are tagged at once', async ({ page }) => {
  await signIn(page, 'tomas');
  await openDemo(page, 'Hill-climb');
  await stage(page, 'Strip');
  await page.getByText('Other ways (1)').click();
  const bank = page.getByRole('checkbox', { name: /One bank only/ });
  await bank.click();
  await expect(bank).toBeChecked();
  await expect(page.getByText('not needed').first()).toBeVisible();
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
  await page.setViewportSize({ width: 1280, height: 800 });
  await bank.click();
  await expect(page.getByText('not needed')).toHaveCount(0);
  await stage(page, 'Index');
  await page.getByRole('button', { name: 'Tag several at once' }).click();
  const which = page.getByRole('group', { name: 'Which parts' });
  const [one, other] = await which.getByRole('button').allInnerTexts();
  await which.getByRole('button').nth(0).click();
  await which.getByRole('button').nth(1).click();
  await page.getByRole('button', { name: 'Felt pen' }).click();
  await page.getByLabel('Which row, bag or box').fill('tray 2');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Tag 2', exact: true }).click();
  for (const place of [one!, other!])
    await expect(
      page
        .getByRole('row')
        .filter({ hasText: place })
        .getByText(/tray 2/),
    ).toBeVisible();
});
