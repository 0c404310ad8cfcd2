import { expect, test } from '@playwright/test';
import { seeing } from './camera';
import { expectAccessible, expectNoSidewaysScroll, openPage, phone, signIn, stage } from './shop';

test('the teacher sees who waits and who is stuck, sends a bench back at the bench and signs another', async ({
  page,
  browser,
}) => {
  await signIn(page, 'tomas');
  await openPage(page, 'Shop', 'Classes');
  await page.getByRole('link', { name: /Norrvik apprentices/ }).click();
  const board = page.getByRole('region', { name: 'Benches by sections' });
  await expect(board.getByRole('row')).toHaveCount(6);
  await expectAccessible(page);

  // At the bench, on the phone.
  await page.setViewportSize(phone);
  await page
    .getByRole('listitem')
    .filter({ hasText: 'joonas' })
    .getByRole('link', { name: 'Look and sign' })
    .click();
  await expect(page.getByRole('heading', { name: 'joonas' })).toBeVisible();
  await expectNoSidewaysScroll(page);
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Send it back' }).click();
  await page.getByLabel('What is to be put right').fill('Tag the pump before it is lifted.');
  await page.getByRole('button', { name: 'Send back' }).click();
  await expect(page.getByText('“Tag the pump before it is lifted.”')).toBeVisible();

  // The student reads it on his own case, puts it right and asks again.
  const theirs = await browser.newPage();
  await signIn(theirs, 'joonas');
  await expect(theirs.getByRole('link', { name: /Norrvik apprentices N5/ })).toBeVisible();
  await expect(theirs.getByText(/Norrvik apprentices N[1-4]/)).toHaveCount(0);
  await theirs.getByRole('link', { name: /Norrvik apprentices N5/ }).click();
  await stage(theirs, 'Strip');
  await theirs.goto(`${theirs.url().split('?')[0]}?step=pump-link`);
  await expect(theirs.getByText('“Tag the pump before it is lifted.”')).toBeVisible();
  await expect(theirs.getByRole('button', { name: 'I have checked it: sign' })).toHaveCount(0);
  await theirs.getByLabel('What was put right').fill('tagged');
  await theirs.getByRole('button', { name: 'Ask for it again' }).click();
  await expect(theirs.getByText(/Waits for tomas since/)).toBeVisible();

  await page.reload();
  await expect(page.getByText('“tagged”')).toBeVisible();
  await page.getByRole('button', { name: 'I have checked it: sign' }).click();
  await page.getByRole('button', { name: '✓ Injection pump unlinked and lifted' }).click();
  await expect(page.getByText(/^Signed by tomas/)).toBeVisible();
  await theirs.close();
});

test('a student sees his own bench, homework that is blind, and nothing of the shop', async ({ page }) => {
  await signIn(page, 'edda');
  await openPage(page, 'Shop', 'Classes');
  await page.getByRole('link', { name: /Norrvik apprentices/ }).click();
  await expect(page.getByText('Your engine')).toBeVisible();
  await expect(page.getByRole('row', { name: /lena ✓ right/ })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('link', { name: 'Look at the engine' }).click();
  await expect(page.getByRole('heading', { name: /^Week 6/ })).toBeVisible();
  await page.getByLabel('Or a part that is not in the drawing').selectOption({ index: 1 });
  await page
    .getByRole('button', { name: /\d min$/ })
    .first()
    .click();
  await expect(page.getByText('Nothing looked at yet.')).toHaveCount(0);
  // What was looked at is kept by the server.
  await page.reload();
  await expect(page.getByRole('heading', { name: /^Week 6/ })).toBeVisible();
  await expect(page.getByText('Nothing looked at yet.')).toHaveCount(0);
  await page.getByRole('button', { name: 'Name a cause' }).click();
  await page.getByRole('button', { name: 'Hand it in' }).click();
  await expect(page.getByText('Yours is in.')).toBeVisible();
  await expect(page.getByRole('region', { name: 'The truth' })).toHaveCount(0);
  await page.goto('/people');
  await expect(page.getByText('A student works on the engine of his own bench.')).toBeVisible();
});

test('a class is begun, and its benches are set up in one go like a case', async ({ page }) => {
  await signIn(page, 'ines');
  await page.goto('/classes');
  await page.getByRole('button', { name: 'Begin a class' }).click();
  await page.getByLabel('Name').fill('Pump crews');
  await page.getByLabel('Mark').fill('q');
  await page.getByRole('button', { name: 'Save' }).click();
  await page.getByRole('link', { name: /Pump crews/ }).click();
  await page.getByRole('button', { name: 'Set up benches' }).click();
  await page.getByLabel('Benches', { exact: true }).fill('3');
  await page.getByLabel(/^Each case begins like/).selectOption({ index: 1 });
  await expectAccessible(page);
  await page
    .getByRole('button', { name: /^Set up/ })
    .last()
    .click();
  await expect(page.getByRole('region', { name: 'Benches by sections' }).getByRole('row')).toHaveCount(4);
  await page.getByRole('button', { name: 'Hand round a part' }).click();
  await page.getByRole('button', { name: 'Hand it round' }).click();
  await expect(page.getByText('Say which part it is.')).toBeVisible();
});

test('the plate of a bench, scanned in the program, opens what there is to sign', async ({
  page,
  baseURL,
}) => {
  await signIn(page, 'tomas');
  await openPage(page, 'Shop', 'Classes');
  await page.getByRole('link', { name: /Norrvik apprentices/ }).click();
  await expect(page.getByRole('heading', { name: 'Waiting for a signature' })).toBeVisible();
  const id = /classes\/([0-9a-f-]{36})/.exec(page.url())![1]!;
  const plates = await page.request.get(`/api/classes/${id}/plates.pdf?page=a4-24`);
  const browser = await seeing(await plates.body());
  const eye = await browser.newPage({ baseURL: baseURL! });
  await signIn(eye, 'tomas');
  await eye.goto(`/classes/${id}`);
  await eye.getByRole('button', { name: 'Scan a bench' }).click();
  await expect(eye).toHaveURL(/\/bench\/[0-9a-f-]{36}$/, { timeout: 30_000 });
  await expect(eye.getByRole('dialog')).toBeHidden();
  await browser.close();
});
