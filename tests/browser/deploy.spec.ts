import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { expect, test } from '@playwright/test';
import { caseOf, goTo, kept, newCase, record, signInByForm, stage, writeScuff } from './shop';

const picture = resolve(import.meta.dirname, '../../demo/pictures/crown-p1.jpg');
const address = process.env.SLEUTH_TLS ?? '';

test.skip(address === '', 'needs deploy/nginx.conf before two instances; ./test starts them');
test.use({ baseURL: address, ignoreHTTPSErrors: false });

test('over TLS: sent on to it, a cookie of this address alone, and told to stay', async ({
  page,
  context,
  request,
}) => {
  const sent = await request.get(`${process.env.SLEUTH_TLS_PLAIN}/cases?x=1`, { maxRedirects: 0 });
  expect(sent.status()).toBe(301);
  expect(sent.headers()['location']).toBe(`${address}/cases?x=1`);
  const first = await page.goto('/');
  expect(first!.headers()['strict-transport-security']).toMatch(/max-age=\d{8}/);
  expect(first!.headers()['server']).not.toMatch(/\d/);
  await signInByForm(page);
  const cookie = (await context.cookies()).find((c) => c.name === '__Host-sleuth')!;
  expect({ ...cookie, value: '', expires: 0, domain: '' }).toMatchObject({
    secure: true,
    httpOnly: true,
    sameSite: 'Strict',
    path: '/',
  });
  // Each request may come to the other instance: the session holds at both.
  for (let i = 0; i < 6; i++) expect((await page.request.get('/api/me')).status()).toBe(200);
});

test('over TLS: what one enters appears at another’s, pictures arrive whole, and the bench goes on without a network', async ({
  page,
  context,
  browser,
}) => {
  await signInByForm(page);
  await newCase(page, 'Behind a proxy');
  const id = caseOf(page);
  await stage(page, 'Look');
  await goTo(page, 'P1');
  // On a device of its own, so that it hears of it from the server alone.
  const elsewhere = await browser.newContext({ baseURL: address });
  const other = await elsewhere.newPage();
  await signInByForm(other, 'ines');
  await other.goto(`/cases/${id}/look`);
  await goTo(other, 'P1');
  await expect(other.getByRole('heading', { name: 'What does it show?' })).toBeVisible();
  await page.getByLabel('Picture files').first().setInputFiles(picture);
  await expect(other.getByRole('img', { name: /Photograph of P1|Crown/ }).first()).toBeVisible();
  const { photos } = await record(other, id);
  const original = await page.request.get(`/api/cases/${id}/photos/${photos[0].id}/original`);
  expect((await original.body()).equals(readFileSync(picture))).toBe(true);
  await elsewhere.close();

  await kept(page, 'look');
  await context.setOffline(true);
  await page.reload();
  await goTo(page, 'P2');
  await writeScuff(page);
  await expect(page.getByText('Skirt scuffed on the thrust side, moderate', { exact: true })).toBeVisible();
  await context.setOffline(false);
  await expect.poll(async () => (await record(page, id)).findings.length).toBe(1);
});
