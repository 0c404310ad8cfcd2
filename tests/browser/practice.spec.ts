import { expect, test } from '@playwright/test';
import { expectAccessible, expectNoSidewaysScroll, openPage, phone, signIn } from './shop';

test('a trainee looks, commits to a cause, and is told with the chain and a score', async ({ page }) => {
  await signIn(page, 'vera');
  await openPage(page, 'Tools', 'Practice');
  await page.getByLabel(/^Number of the engine/).fill('3');
  await page.getByRole('button', { name: 'Open it' }).click();
  await expect(page.getByRole('heading', { name: /^Engine 3:/ })).toBeVisible();
  await expectAccessible(page);
  await page.getByLabel('Or a part that is not in the drawing').selectOption({ index: 1 });
  const offered = page.getByRole('button', { name: / min$/ });
  await offered.first().click();
  await expect(page.getByText('Nothing looked at yet.')).toBeHidden();
  await page.reload();
  // What was looked at is kept on the device.
  await expect(page.getByText('Nothing looked at yet.')).toBeHidden();
  await page.getByRole('button', { name: 'Name a cause' }).click();
  // Whoever knows the truth commits to it.
  const told = await page.request.post('/api/practice/3/commit', {
    data: { looked: [], guesses: [{ cause: 'detonation', probability: 0.1 }] },
  });
  const [first] = ((await told.json()) as { causes: { name: string }[] }).causes;
  await page.getByLabel('Cause 1', { exact: true }).selectOption({ label: first!.name });
  await page.getByLabel('How sure of cause 1, per cent').fill('80');
  await page.getByRole('button', { name: 'Commit and be told' }).click();
  const truth = page.getByRole('region', { name: 'The truth' });
  await expect(truth.getByText(/Right\. It was/)).toBeVisible();
  await expect(truth.getByText(/bits in/)).toBeVisible();
  await expectAccessible(page);
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
});
