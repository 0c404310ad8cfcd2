import { resolve } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import {
  caseOf,
  expectAccessible,
  expectNoSidewaysScroll,
  goTo,
  newCase,
  opened,
  phone,
  record,
  signInByForm,
  signOut,
  stage,
  writeScuff,
} from './shop';

const picture = resolve(import.meta.dirname, '../../demo/pictures/crown-p1.jpg');

/** A link as the lead hands it over. */
async function invite(lead: Page, role: string) {
  await lead.goto('/people');
  await lead
    .getByRole('button', { name: new RegExp(`^${role}`) })
    .first()
    .click();
  return (await lead.getByText(/\/join#/).textContent())!;
}

test('somebody is let in by a link, given another role, and shut out', async ({ page, browser }) => {
  await signInByForm(page, 'ines');
  const link = await invite(page, 'Viewer');
  await expectAccessible(page);
  const name = `Jörg ${Date.now()}`;
  const theirs = await (await browser.newContext({ viewport: phone })).newPage();
  await theirs.goto(link);
  await theirs.getByLabel('Your name').fill(name);
  await theirs.getByLabel('Password').fill('aaaaaaaaaaaaaaaaaaaa');
  await theirs.getByRole('button', { name: 'Come in' }).click();
  await expect(theirs.getByText('easily guessed')).toBeVisible();
  await expectNoSidewaysScroll(theirs);
  await theirs.getByLabel('Password').fill('kettle sparrow anvil');
  await theirs.getByRole('button', { name: 'Come in' }).click();
  await expect(theirs.getByRole('heading', { name: 'Casebook' })).toBeVisible();
  await expect(theirs.getByRole('link', { name: 'New case' })).toBeHidden();
  // The link is good once.
  const late = await (await browser.newContext()).newPage();
  await late.goto(link);
  await expect(late.getByText('This link is not good')).toBeVisible();

  await page.goto('/people');
  const card = page.getByRole('article').filter({ hasText: name });
  await card.getByRole('button', { name: 'Mechanic' }).click();
  await expect(card.getByRole('button', { name: 'Mechanic' })).toHaveAttribute('aria-pressed', 'true');
  await theirs.reload();
  await theirs.getByLabel('Name').fill(name);
  await theirs.getByLabel('Password').fill('kettle sparrow anvil');
  await theirs.getByRole('button', { name: 'Sign in' }).click();
  await expect(theirs.getByRole('link', { name: 'New case' })).toBeVisible();
  await card.getByRole('button', { name: 'Shut out now' }).click();
  await expect(card.getByText('Shut out since')).toBeVisible();
  await theirs.reload();
  await expect(theirs.getByRole('button', { name: 'Sign in' })).toBeVisible();

  await page.goto('/changes?kind=person');
  await expect(page.getByText('changed by ines').first()).toBeVisible();
  await page.getByRole('button', { name: 'What it was before' }).first().click();
  await expect(page.getByText('mechanic', { exact: true }).first()).toBeVisible();
  await expectAccessible(page);
});

test('a passkey is made on this device, and lets in without a password', async ({ page, baseURL }) => {
  // Passkeys belong to a name; the address of numbers has none.
  const at = baseURL!.replace('127.0.0.1', 'localhost');
  const devtools = await page.context().newCDPSession(page);
  await devtools.send('WebAuthn.enable');
  await devtools.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  });
  await page.goto(at);
  await page.getByLabel('Name').fill('tomas');
  await page.getByLabel('Password').fill('demo-tomas-bench');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByRole('button', { name: /^tomas/ }).click();
  await page.getByRole('menuitem', { name: 'Password, passkeys, devices' }).click();
  await page.getByRole('button', { name: 'Make one on this device' }).click();
  await expect(page.getByRole('button', { name: 'Remove' })).toHaveCount(1);
  await expectAccessible(page);
  await signOut(page, 'tomas');
  await page.getByRole('button', { name: 'With a passkey of this device' }).click();
  // It goes on where the one who left stood.
  await expect(page.getByText('Mechanic of this shop.')).toBeVisible();
  await page.getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByRole('button', { name: 'Remove' })).toHaveCount(0);
});

test('who signs in in one tab is who writes in all of them, and finds nothing half typed by another', async ({
  page,
  context,
}) => {
  await signInByForm(page, 'tomas');
  await newCase(page, 'Two tabs');
  await stage(page, 'Arrival');
  await page.getByLabel('Complaint').fill('typed by tomas and not saved');
  const other = await context.newPage();
  await other.goto('/');
  await signOut(other, 'tomas');
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();
  await other.getByLabel('Name').fill('ines');
  await other.getByLabel('Password').fill('demo-ines-bench');
  await other.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('button', { name: /^ines/ })).toBeVisible();
  await opened(page);
  await expect(page.getByLabel('Complaint')).toHaveValue('');
  await signOut(other, 'ines');
  await other.getByLabel('Name').fill('tomas');
  await other.getByLabel('Password').fill('demo-tomas-bench');
  await other.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('button', { name: /^tomas/ })).toBeVisible();
  await expect(page.getByLabel('Complaint')).toHaveValue('typed by tomas and not saved');
});

test('a browser that keeps nothing loses nothing: it is told, and what is entered goes to the server', async ({
  page,
}) => {
  await page.addInitScript(() => {
    const full = () => {
      throw new DOMException('full', 'QuotaExceededError');
    };
    IDBObjectStore.prototype.add = full;
    IDBObjectStore.prototype.put = full;
    Storage.prototype.setItem = full;
  });
  await signInByForm(page);
  await newCase(page, 'A full phone');
  await stage(page, 'Look');
  await goTo(page, 'P1');
  await writeScuff(page);
  await expect(page.getByText('Skirt scuffed on the thrust side, moderate', { exact: true })).toBeVisible();
  await expect(page.getByText('has no room')).toBeVisible();
  await page.getByLabel('Picture files').first().setInputFiles(picture);
  await expect(page.getByRole('img', { name: /Photograph of P1|Crown/ }).first()).toBeVisible();
  const { findings, photos } = await record(page, caseOf(page));
  expect(findings).toHaveLength(1);
  expect(photos).toHaveLength(1);
  // Without the server too it is told, in the form that still has it.
  await page.context().setOffline(true);
  await goTo(page, 'P2');
  await writeScuff(page);
  await expect(page.getByText('This was not saved')).toBeVisible();
  await page.context().setOffline(false);
});

test('a tab of before an update begins anew where a part of it is gone, and loses nothing typed', async ({
  page,
}) => {
  await page.context().route('**/sw.js', (route) => route.abort());
  await signInByForm(page);
  await newCase(page, 'Old tab');
  await page.getByLabel('Complaint').fill('typed before the update');
  let gone = 0;
  await page.route('**/assets/Strip-*.js', (route) =>
    gone++ === 0 ? route.fulfill({ status: 404 }) : route.continue(),
  );
  await stage(page, 'Strip');
  await opened(page);
  await expect(page.getByRole('button', { name: /Oil pan off/ })).toBeVisible();
  expect(gone).toBeGreaterThan(0);
  await stage(page, 'Arrival');
  await expect(page.getByLabel('Complaint')).toHaveValue('typed before the update');
});
