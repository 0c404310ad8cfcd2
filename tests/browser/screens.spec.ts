import { expect, test } from '@playwright/test';
import {
  caseOf,
  expectAccessible,
  expectNoSidewaysScroll,
  goTo,
  openDemo,
  openPage,
  opened,
  phone,
  record,
  signIn,
  stage,
} from './shop';

const stages = ['Arrival', 'Strip', 'Index', 'Look', 'Gauge', 'Trace', 'Verdict', 'Dossier'];

test('every screen of the demo case passes axe on a desk and fits a phone', async ({ page }) => {
  await signIn(page, 'ines');
  await expectAccessible(page);
  await openDemo(page, 'big end 4');
  for (const name of stages) {
    await stage(page, name);
    await opened(page);
    await expectAccessible(page);
  }
  await page.setViewportSize(phone);
  for (const name of stages) {
    await stage(page, name);
    await opened(page);
    await expectNoSidewaysScroll(page);
  }
  await expectAccessible(page);
});

test('a part opens over every stage, whole: tag, look, measure and verdict', async ({ page }) => {
  await signIn(page, 'ines');
  await openDemo(page, 'big end 4');
  const over = stages.filter((s) => s !== 'Look' && s !== 'Dossier');
  for (const [i, part] of ['R4U', 'K4', 'C1', 'P1T', 'PA', 'EN'].entries()) {
    await page.goto(`/cases/${caseOf(page)}/${over[i % over.length]!.toLowerCase()}?part=${part}`);
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText(part);
    for (const tab of ['Look', 'Measure', 'Verdict', 'Tag']) {
      await dialog.getByRole('tab', { name: tab }).click();
      await expect(dialog.getByRole('tabpanel', { name: tab })).not.toBeEmpty();
      await opened(page);
    }
  }
});

test('the dark screen has enough contrast too', async ({ page }) => {
  await signIn(page, 'ines');
  await openDemo(page, 'big end 4');
  for (const screen of ['Dark', 'In the sun']) {
    await page.getByRole('button', { name: /^ines/ }).click();
    await page.getByRole('menuitemradio', { name: screen, exact: true }).click();
    await expectAccessible(page);
    await page.keyboard.press('Escape');
    for (const name of ['Gauge', 'Trace']) {
      await stage(page, name);
      await opened(page);
      await expectAccessible(page);
    }
  }
});

test('the bar is on every page, tells where one is, and says of an unknown address that it is none', async ({
  page,
}) => {
  await signIn(page, 'ines');
  await openPage(page, 'Tools', 'Atlas of signs');
  await expect(page).toHaveTitle('Atlas of signs · Vivid Sleuth');
  await openPage(page, 'Shop', 'Suppliers');
  await expect(page.getByRole('heading', { name: 'Suppliers and machine shops' })).toBeVisible();
  await page.goto('/no/such/page');
  await expect(page.getByRole('heading', { name: 'There is nothing at this address' })).toBeVisible();
  await expectAccessible(page);
  await openDemo(page, 'big end 4');
  await stage(page, 'Gauge');
  await expect(page).toHaveTitle('Gauge · Biogas generator, big end 4 · Vivid Sleuth');
  await openPage(page, 'Tools', 'Bench reckoners');
  await page.goBack();
  // What is next is one touch from any stage.
  await page
    .getByRole('link', { name: /^Strip: / })
    .first()
    .click();
  await expect(page).toHaveURL(/\/strip\?step=/);
});

test('on a phone a stage begins at the top, and every other page is two touches away', async ({ page }) => {
  await signIn(page, 'tomas');
  await page.setViewportSize(phone);
  await openDemo(page, 'big end 4');
  await stage(page, 'Gauge');
  await opened(page);
  const main = await page.getByRole('main').boundingBox();
  expect(main!.y).toBeLessThan(90);
  await expectNoSidewaysScroll(page);
  await page.getByRole('button', { name: 'Gauge: other stages and pages' }).click();
  await expectAccessible(page);
  await page.getByRole('dialog').getByRole('link', { name: 'Suppliers' }).click();
  await expect(page.getByRole('heading', { name: 'Suppliers and machine shops' })).toBeVisible();
  await page.getByRole('button', { name: 'All pages' }).click();
  await page.getByRole('dialog').getByRole('link', { name: 'Practice' }).click();
  await expect(page).toHaveURL(/practice/);
});

test('the long section is walked with the arrow keys and opened with enter', async ({ page }) => {
  await signIn(page);
  await openDemo(page, 'big end 4');
  const section = page.getByRole('group', { name: 'Long section of the engine' }).first();
  await section.getByRole('button', { name: /^R1, / }).focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toContainText(/cylinder 1|crankpin 1/);
});

test('an address with rubbish in it still opens the case', async ({ page }) => {
  await signIn(page);
  await openDemo(page, 'big end 4');
  for (const rubbish of [
    'lens=zzz',
    'cause=-7&lens=cause',
    'part=ZZ99&lens=zzz',
    'step=none&round=none&sign=none',
  ]) {
    for (const room of ['strip', 'gauge', 'trace']) {
      await page.goto(`/cases/${caseOf(page)}/${room}?${rubbish}`);
      await opened(page);
      await expect(page.getByRole('navigation', { name: 'Stages of the case' })).toBeVisible();
      await expect(page.getByRole('main').last()).not.toBeEmpty();
    }
  }
});

test('what somebody else enters appears on the open screen by itself', async ({ page, browser }) => {
  await signIn(page);
  await openDemo(page, 'trailer');
  await stage(page, 'Strip');
  const heard = page.waitForResponse((r) => r.url().endsWith('/events') && r.ok());
  await page.reload();
  await heard;
  await opened(page);
  const other = await browser.newContext();
  await other.request.post('/api/sign-in', { data: { name: 'ines', password: 'demo-ines-bench' } });
  const words = `Seen by the other bench at ${Date.now()}`;
  const current = await (await other.request.get(`/api/cases/${caseOf(page)}`)).json();
  const saved = await other.request.put(`/api/cases/${current.id}/arrival`, {
    data: { ...current, title: words },
  });
  expect(saved.ok()).toBe(true);
  await expect(page.getByText(words).first()).toBeVisible();
  const now = await (await other.request.get(`/api/cases/${current.id}`)).json();
  await other.request.put(`/api/cases/${current.id}/arrival`, { data: { ...now, title: current.title } });
  await other.close();
});

test('a viewer reads and is offered nothing to write', async ({ page }) => {
  await signIn(page, 'vera');
  await openDemo(page, 'big end 4');
  await expect(page.getByRole('button', { name: 'Write it down' })).toHaveCount(0);
  const refused = await page.request.post('/api/cases', { data: {} });
  expect(refused.status()).toBe(403);
  expect((await refused.json()).detail).toContain('mechanic');
});

test('what was typed survives a reload and a server that does not answer', async ({ page, context }) => {
  await signIn(page);
  await openDemo(page, 'trailer');
  const complaint = page.getByLabel('Complaint, in the customer’s words');
  await expect(complaint).not.toHaveValue('');
  const words = `Hunts at idle, then knocks when warm; told again at ${Date.now()}.`;
  await complaint.fill(words);
  await context.setOffline(true);
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByRole('alert')).toContainText('This was not saved');
  await context.setOffline(false);
  await page.reload();
  await expect(complaint).toHaveValue(words);
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'All written.' })).toBeVisible();
});

test('a wrong address says what would be right', async ({ page }) => {
  await signIn(page);
  await openDemo(page, 'big end 4');
  await page.getByLabel('Go to an address').fill('R99');
  await page.getByRole('button', { name: 'Open', exact: true }).click();
  const told = await page
    .getByLabel('Go to an address')
    .evaluate((e) => (e as HTMLInputElement).validationMessage);
  expect(told).toContain('No such address');
});

test('one field goes anywhere: by a key, in the trade’s words, and does what is asked', async ({ page }) => {
  await signIn(page, 'tomas');
  const go = async (typed: string, first: string) => {
    await page.keyboard.press('F2');
    await page.getByRole('combobox', { name: /^Go anywhere/ }).fill(typed);
    await expect(page.getByRole('option').first()).toContainText(first);
    await page.keyboard.press('Enter');
  };
  await go('compresion ratio', 'Compression ratio');
  await expect(page).toHaveURL(/\/reckon\//);
  await go('big end 4 generator', 'Biogas generator, big end 4');
  await expect(page).toHaveURL(/\/cases\//);
  await opened(page);
  await go('order', 'The order');
  await expect(page).toHaveURL(/view=order/);
  await page.keyboard.press('F2');
  await page.getByRole('combobox', { name: /^Go anywhere/ }).fill('crankpin 4');
  await expect(page.getByRole('option').first()).toContainText('K4');
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('F2');
  await page.getByRole('combobox', { name: /^Go anywhere/ }).fill('qqqqxx');
  await expect(page.getByText('Nothing here is called “qqqqxx”.', { exact: false })).toBeVisible();
  await page.keyboard.press('Escape');
  const before = (await record(page, caseOf(page))).findings.length;
  await go('looked clean C2', 'Looked, clean');
  await expect(page.getByRole('dialog')).toContainText('C2');
  await expect
    .poll(async () => (await record(page, caseOf(page))).findings.length, { timeout: 20_000 })
    .toBeGreaterThan(before);
});

test('Back closes the part that is open and leaves the stage where it was; another stage begins at its top', async ({
  page,
}) => {
  await signIn(page, 'tomas');
  await openDemo(page, 'big end 4');
  await stage(page, 'Gauge');
  await opened(page);
  await page.evaluate(() => window.scrollTo(0, 300));
  await goTo(page, 'K4');
  await expect(page.getByRole('dialog')).toContainText('K4');
  await page.goBack();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page).toHaveURL(/\/gauge$/);
  await goTo(page, 'K4');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.evaluate(() => window.scrollTo(0, 900));
  await stage(page, 'Trace');
  expect(await page.evaluate(() => window.scrollY)).toBe(0);
});
