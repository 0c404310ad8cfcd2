import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';
import { spawn } from 'node:child_process';
import { createServer, type AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';

/** A stand-in gauge of the shop, as `sleuth gauge` plays it; the lead's settings name its address. Ends with the test. */
export async function standInGauge(page: Page, ...args: string[]) {
  const port = await new Promise<number>((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port: free } = probe.address() as AddressInfo;
      probe.close(() => resolve(free));
    });
  });
  const cli = fileURLToPath(
    new URL('../../src/VividSleuth.Cli/bin/Release/net10.0/sleuth.dll', import.meta.url),
  );
  const gauge = spawn('dotnet', [cli, 'gauge', '--port', String(port), ...args], {
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  await new Promise((resolve) => gauge.stdout.once('data', resolve));
  await setGauge(page, `127.0.0.1:${port}`);
  return () => gauge.kill();
}

/** Sets the shop's gauge as a lead does; the page must be signed in as one. */
export async function setGauge(page: Page, address: string) {
  const settings = (await (await page.request.get('/api/settings')).json()) as Record<string, unknown>;
  const saved = await page.request.put('/api/settings', { data: { ...settings, gaugeAddress: address } });
  expect(saved.ok()).toBe(true);
}

export const phone = { width: 390, height: 844 };

/** Signs in without the form, which other tests walk through. */
export async function signIn(page: Page, name = 'tomas') {
  const answer = await page.request.post('/api/sign-in', { data: { name, password: `demo-${name}-bench` } });
  expect(answer.ok()).toBe(true);
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'Casebook' })).toBeVisible();
}

/** Signs in through the form, as a person does. */
export async function signInByForm(page: Page, name = 'tomas') {
  await page.goto('/');
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Password').fill(`demo-${name}-bench`);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('link', { name: 'Casebook' })).toBeVisible();
}

/** The room is there: nothing of it is still being opened, and nothing of it failed. */
export async function opened(page: Page) {
  await expect(page.getByText(/^Opening .* …$/)).toHaveCount(0);
  await expect(page.getByText('tell whoever looks after the program')).toHaveCount(0);
}

/** Goes to a stage of the case that is open. */
export async function stage(page: Page, name: string) {
  await expect(page.getByRole('navigation', { name: /^(Stages of the case|At the thumb)$/ })).toBeVisible();
  const nav = page.getByRole('navigation', { name: 'Stages of the case' });
  if (await nav.isVisible()) await nav.getByRole('link', { name }).click();
  else {
    await page.getByRole('button', { name: /: other stages and pages$/ }).click();
    await page.getByRole('dialog').getByRole('link', { name, exact: false }).first().click();
  }
  await expect(page).toHaveURL(new RegExp(`/${name.toLowerCase()}(\\?|$)`));
}

/** Opens the field that goes anywhere; a key that comes before the page can hear it is lost. */
export async function find(page: Page) {
  await page
    .getByRole('button', { name: /^Go anywhere/ })
    .filter({ visible: true })
    .first()
    .waitFor();
  await page.keyboard.press('F2');
}

/** What the field offers: a page that is still loading behind it may have choices of its own. */
export const offers = (page: Page) =>
  page.getByRole('listbox', { name: 'What it may mean' }).getByRole('option');

/** Opens a part by typing its address. */
export async function goTo(page: Page, address: string) {
  await find(page);
  await page.getByRole('combobox', { name: /^Go anywhere/ }).fill(address);
  await expect(offers(page).first()).toContainText(address);
  await page.keyboard.press('Enter');
}

/** A finding at the piston that is open, written down as at the bench. */
export async function writeScuff(page: Page) {
  for (const name of [/^Skirt scuffed on the thrust side/, /^2 moderate/, 'Save'])
    await page.getByRole('button', { name }).first().click();
}

/** Opens a page of the menus at the top. */
export async function openPage(page: Page, menu: 'Tools' | 'Shop', name: string) {
  await page.getByRole('button', { name: menu }).click();
  await page.getByRole('menuitem', { name: new RegExp(`^${name}`) }).click();
}

/** Signs out by the menu under the name. */
export async function signOut(page: Page, name: string) {
  await page.getByRole('button', { name: new RegExp(`^${name}`) }).click();
  await page.getByRole('menuitem', { name: `Sign out ${name}` }).click();
}

/** Opens the demo case whose title is given, not a copy of it that a test has read in. */
export async function openDemo(page: Page, title: string) {
  await page.goto('/');
  await page
    .getByRole('link', { name: new RegExp(title) })
    .filter({ hasNotText: 'read in from a file' })
    .click();
  await expect(page.getByRole('navigation', { name: /^(Stages of the case|At the thumb)$/ })).toBeVisible();
}

const contrasted = new WeakMap<Page, Set<string>>();

/** Nothing that axe-core calls serious or critical. Contrast, which takes most of the time, is looked at once on each address of a test. */
export async function expectAccessible(page: Page) {
  const seen = contrasted.get(page) ?? new Set<string>();
  contrasted.set(page, seen);
  const at = `${new URL(page.url()).pathname} ${await page.getByRole('dialog').count()}`;
  const contrast = !seen.has(at);
  seen.add(at);
  const found = await new AxeBuilder({ page })
    .setLegacyMode()
    // Only what is wrong is described; a description of all that is right takes most of the time.
    .options({
      resultTypes: ['violations'],
      preload: false,
      rules: { 'color-contrast': { enabled: contrast } },
    })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21aa'])
    .analyze();
  const told = found.violations.map(
    (v) =>
      `${v.id}: ${v.nodes
        .map((n) => n.target.join(' '))
        .slice(0, 3)
        .join('; ')}`,
  );
  expect(told).toEqual([]);
}

/** Nothing stands out sideways: a phone shows the page without panning. */
export async function expectNoSidewaysScroll(page: Page) {
  const over = await page.evaluate(
    () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
  );
  expect(over).toBeLessThanOrEqual(0);
}

/** Case id of the page that is open. */
export const caseOf = (page: Page) => /cases\/([0-9a-f-]{36})/.exec(page.url())![1]!;

export const record = async (page: Page, id: string) => (await page.request.get(`/api/cases/${id}`)).json();

/**
 * The service worker keeps the application and the page keeps what was read for the rooms named, so that a reload without a network opens them.
 */
export async function kept(page: Page, ...rooms: string[]) {
  await page.evaluate(async () => {
    await navigator.serviceWorker.ready;
    while (!(await caches.keys()).some((k) => k.includes('precache')))
      await new Promise((r) => setTimeout(r, 100));
  });
  const id = caseOf(page);
  const wanted = [
    ['me'],
    ['knowledge'],
    ['case', id, 'record'],
    ...rooms.map((r) => ['case', id, 'room', r]),
  ];
  await expect
    .poll(() =>
      page.evaluate(
        (ends) =>
          new Promise<string[]>((done, fail) => {
            const open = indexedDB.open('vivid-sleuth');
            open.onerror = fail;
            open.onsuccess = () => {
              const all = open.result.transaction('reads').objectStore('reads').getAllKeys();
              all.onerror = fail;
              all.onsuccess = () => {
                open.result.close();
                done(ends.filter((e) => !all.result.some((key) => String(key).endsWith(e))));
              };
            };
          }),
        wanted.map((key) => JSON.stringify(key)),
      ),
    )
    .toEqual([]);
}

/** A case of its own, so that tests do not read each other's findings. */
export async function newCase(page: Page, title: string) {
  await page.goto('/new');
  await page.getByLabel('Engine', { exact: false }).first().fill('Orchard sprayer pump, inline four');
  await page.getByLabel('Title of the case').fill(title);
  await page.getByLabel('Firing order').fill('1 3 4 2');
  await page.getByRole('button', { name: 'Start the case' }).click();
  await expect(page).toHaveURL(/\/arrival/);
}
