import { expect, test } from '@playwright/test';
import AxeBuilder from '@axe-core/playwright';
import { readFile } from 'node:fs/promises';
import { expectAccessible, openDemo, opened, signIn, stage, phone } from './shop';

test('an engine is sealed, a stranger finds the bag sound and a bent one not, and it is read in again', async ({
  page,
  browser,
  baseURL,
}) => {
  await signIn(page, 'ines');
  await openDemo(page, 'Biogas generator');
  await stage(page, 'Dossier');
  await page.getByText('Seal it', { exact: true }).click();
  const state = page.getByText(/^(as it stands it is|changed since) seal \d+$/);
  await expect(state).toBeVisible();
  // A test before this one may have written in the same case.
  if ((await state.innerText()).startsWith('changed'))
    await page.getByRole('button', { name: 'Seal it as it stands' }).click();
  await expect(state).toHaveText(/^as it stands/);
  const number = Number(/\d+$/.exec(await state.innerText())![0]);
  expect(number).toBeGreaterThan(1);
  await page.getByText('What was written since seal 1').click();
  await expect(page.getByRole('list', { name: 'Changed since seal 1' }).getByText('Verdict')).toBeVisible();
  // Nothing was written since: there is nothing new to seal, and it says so.
  await page.getByRole('button', { name: 'Seal it as it stands' }).click();
  await expect(page.getByText(`Nothing was written since seal ${number}.`)).toBeVisible();

  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Save the sealed bag' }).first().click(),
  ]);
  expect(download.suggestedFilename()).toBe(`biogas-generator-big-end-4-seal-${number}.zip`);
  const bag = await readFile((await download.path())!);

  const stranger = await browser.newPage({ baseURL: baseURL! });
  await stranger.goto('/check');
  const choose = stranger.getByLabel('Sealed bag');
  await choose.setInputFiles({ name: 'bag.zip', mimeType: 'application/zip', buffer: bag });
  await expect(stranger.getByRole('heading', { name: 'Sound, and sealed by this shop' })).toBeVisible();
  await expectAccessible(stranger);
  const bent = Buffer.from(bag);
  const at = bent.indexOf('"title"', bent.indexOf('data/case.json'));
  bent[at] = bent[at]! ^ 1;
  await choose.setInputFiles({ name: 'bag.zip', mimeType: 'application/zip', buffer: bent });
  await expect(stranger.getByRole('heading', { name: 'It is not as it was sealed' })).toBeVisible();
  await expect(stranger.getByText('data/case.json is another than')).toBeVisible();
  await stranger.close();

  await page.goto('/');
  const file = page.getByLabel('Case file or sealed bag');
  await file.setInputFiles({ name: 'bag.zip', mimeType: 'application/zip', buffer: bent });
  await expect(page.getByText('data/case.json is another than').first()).toBeVisible();
  await file.setInputFiles({ name: 'bag.zip', mimeType: 'application/zip', buffer: bag });
  await expect(page).toHaveURL(/\/arrival$/);
  await expect(page.getByText('Biogas generator, big end 4').first()).toBeVisible();
  await stage(page, 'Dossier');
  await expect(page.getByText('not sealed yet')).toBeVisible();
  await page.goto('/');
  const copies = page.getByRole('link', { name: /Biogas generator, big end 4/ });
  await expect(copies).toHaveCount(2);
  await expect(copies.filter({ hasText: 'read in from a file' })).toHaveCount(1);
});

test('a customer reads his letter through a link on a phone, approves a way to go, and the shop sees it', async ({
  page,
  browser,
  baseURL,
}) => {
  await signIn(page, 'ines');
  await openDemo(page, 'Refrigerated trailer');
  await stage(page, 'Dossier');
  await page.getByRole('button', { name: /^Customer’s letter/ }).click();
  await page.getByText('Let somebody read it', { exact: true }).click();
  await page.getByLabel('Who will have it').fill('The fleet’s office');
  await page.getByRole('button', { name: 'Open a link' }).click();
  const link = page.getByRole('listitem').filter({ hasText: 'The fleet’s office' });
  const address = await link.getByRole('textbox').inputValue();

  const context = await browser.newContext({ baseURL: baseURL!, viewport: phone, hasTouch: true });
  const customer = await context.newPage();
  await customer.goto(address);
  await expect(customer.frameLocator('iframe').getByText('What it costs')).toBeVisible();
  await customer.getByRole('link', { name: /^What should be done/ }).click();
  const way = customer.getByRole('listitem').filter({ hasText: 'Liners, pistons and a rebuilt head' });
  await way.getByRole('button', { name: /^Yes, at/ }).click();
  await expect(way.getByText('There is no name under it.')).toBeVisible();
  await customer.getByLabel('Your name').fill('R. Ostler');
  await way.getByRole('button', { name: /^Yes, at/ }).click();
  await expect(way.getByText('Approved by R. Ostler')).toBeVisible();
  await expectAccessible(customer);
  await context.close();

  await page.reload();
  await opened(page);
  await page.getByText('Let somebody read it', { exact: true }).click();
  await link.getByText(/^Read once/).click();
  await expect(link.getByText(/on the screen, from/)).toBeVisible();
  await link.getByRole('button', { name: 'Shut it' }).click();
  await expect(link.getByText(/shut; its last day/)).toBeVisible();
  await stage(page, 'Verdict');
  await page.getByRole('button', { name: 'Options', exact: true }).click();
  await expect(page.getByText('✓ Approved by the customer')).toBeVisible();

  const late = await browser.newPage({ baseURL: baseURL! });
  await late.goto(address);
  await expect(late.getByRole('heading', { name: 'Nothing can be read here' })).toBeVisible();
  await late.close();
});

test('every kind of dossier is a page that whoever cannot see it can have read out', async ({ page }) => {
  await signIn(page, 'ines');
  await openDemo(page, 'Portable fire pump');
  const id = /cases\/([0-9a-f-]{36})/.exec(page.url())![1];
  for (const kind of ['customer', 'examiner', 'own', 'class']) {
    const html = await (await page.request.get(`/api/cases/${id}/dossier/page?kind=${kind}`)).text();
    await page.setContent(html);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    const { violations } = await new AxeBuilder({ page }).analyze();
    expect(violations.map((v) => `${v.id}: ${v.nodes[0]?.html}`)).toEqual([]);
  }
});

test('drawings stand in their own places in the page', async ({ page }) => {
  await signIn(page, 'ines');
  await openDemo(page, 'Biogas generator');
  const id = /cases\/([0-9a-f-]{36})/.exec(page.url())![1];
  await page.setContent(await (await page.request.get(`/api/cases/${id}/dossier/page?kind=examiner`)).text());
  const boxes = await page
    .locator('.drawn figure')
    .evaluateAll((all) =>
      all.map((f) => [f.getBoundingClientRect(), f.querySelector('svg')!.getBoundingClientRect()]),
    );
  expect(boxes.length).toBeGreaterThan(10);
  for (const [figure, svg] of boxes) {
    expect(svg!.top).toBeGreaterThanOrEqual(figure!.top - 1);
    expect(svg!.bottom).toBeLessThanOrEqual(figure!.bottom + 1);
    expect(svg!.width).toBeGreaterThan(60);
  }
});
