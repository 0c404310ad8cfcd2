import { expect, test } from '@playwright/test';
import { expectAccessible, phone, signIn } from './shop';

/** Chooses a language in the account, as a person does. */
async function choose(page: import('@playwright/test').Page, name: string, language: string) {
  await page.getByRole('button', { name: new RegExp(`^${name}`) }).click();
  await page.getByRole('menuitemradio', { name: language }).click();
}

test('a person chooses German: screens, sentences, names and figures follow, on this device alone', async ({
  page,
  browser,
}) => {
  await signIn(page);
  await choose(page, 'tomas', 'Deutsch');
  await expect(page.getByRole('heading', { name: 'Fallbuch' })).toBeVisible();
  await expect(page.locator('html')).toHaveAttribute('lang', 'de');
  await page.getByRole('link', { name: /Biogas generator, big end 4/ }).click();
  await page.getByRole('link', { name: 'Messen' }).click();
  // Of the server: a sentence, and a name of the knowledge.
  await expect(page.getByText(/misst als STD, und der Zapfen ist/).first()).toBeVisible();
  await expect(page.getByRole('button', { name: /Ringbreite \(axial\)/ })).toBeVisible();
  await page.getByRole('link', { name: 'Spur' }).click();
  await expect(page.getByText('Schalen der falschen Stufe auf diesem Zapfen').first()).toBeVisible();
  await expectAccessible(page);

  // Another device of the same person is asked by nobody.
  const other = await browser.newContext();
  const elsewhere = await other.newPage();
  await signIn(elsewhere);
  await expect(elsewhere.getByRole('heading', { name: 'Casebook' })).toBeVisible();
  await other.close();

  await page.goto('/');
  await choose(page, 'tomas', 'English');
  await expect(page.getByRole('heading', { name: 'Casebook' })).toBeVisible();
});

test('a comma is the decimal sign of who reads German', async ({ page }) => {
  await signIn(page);
  await page.evaluate(() => localStorage.setItem('language', 'de'));
  await page.goto('/reckon/bearing-clearance');
  await page.getByLabel('Gehäusebohrung, Deckel angezogen').fill('77,060');
  // 77.060 − 2 × 2.624 − 71.748 = 0.064; English asks whether that comma parts thousands.
  await expect(page.getByText(/0,064/).first()).toBeVisible();
  await page.evaluate(() => localStorage.setItem('language', 'en'));
  await page.reload();
  await page.getByLabel('Housing bore, cap torqued').fill('77,060');
  await expect(page.getByText(/decimal comma or a thousands mark/).first()).toBeVisible();
});

test('at the bench on a phone nothing of the German is cut off', async ({ page }) => {
  await page.setViewportSize(phone);
  await signIn(page);
  await page.evaluate(() => localStorage.setItem('language', 'de'));
  for (const room of ['strip', 'look', 'gauge']) {
    await page.goto('/');
    await page.getByRole('link', { name: /Biogas generator, big end 4/ }).click();
    await page.waitForURL(/\/cases\//);
    await page.goto(page.url().replace(/\/cases\/([0-9a-f-]+).*/, `/cases/$1/${room}`));
    await expect(page.getByRole('navigation', { name: 'Am Daumen' })).toBeVisible();
    const wide = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
    expect(wide, room).toBeLessThanOrEqual(0);
  }
});
