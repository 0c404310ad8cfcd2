import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
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
  // With all of them decided the hand goes on to what is to be decided next.
  await expect(page.locator('[data-to-decide]:focus')).toBeVisible();
  await expect(renew.getByText('Advised then: Renew.', { exact: false })).toBeVisible();
  await expectAccessible(page);
  const seven = renew.getByRole('listitem').filter({ hasText: '✓ Renew' });
  await seven.getByRole('button', { name: 'Undo' }).click();
  await seven.getByRole('textbox', { name: 'Why', exact: true }).fill('Wrong engine on the bench.');
  await seven.getByRole('button', { name: 'Undo' }).last().click();
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
  await card.getByRole('button', { name: 'Undo' }).click();
  await card.getByRole('textbox', { name: 'Why' }).fill('Only tried.');
  await card.getByRole('button', { name: 'Undo' }).last().click();
  await expect(page.getByRole('heading', { name: 'Rings alone' })).toHaveCount(0);
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
});

/** A supplier in the network that has everything by tomorrow. */
function supplierListening() {
  const orders: { id: string }[] = [];
  const server = createServer((request, response) => {
    let body = '';
    request.on('data', (chunk) => (body += chunk));
    request.on('end', () => {
      const asked = body
        ? (JSON.parse(body) as { lines: { id: string; quantity: number }[] })
        : { lines: [] };
      const tomorrow = new Date(Date.now() + 86_400_000).toISOString().slice(0, 10);
      if (request.url === '/orders') orders.push(asked);
      response.setHeader('Content-Type', 'application/json');
      response.end(
        JSON.stringify(
          request.url === '/offers'
            ? {
                offers: asked.lines.map((l) => ({
                  line: l.id,
                  partNumber: '77-1',
                  price: 41.5,
                  currency: 'EUR',
                  pack: 1,
                  days: 1,
                  inStock: true,
                  remarks: '',
                })),
              }
            : {
                reference: 'T-7',
                lines: asked.lines.map((l) => ({
                  id: l.id,
                  state: 'confirmed',
                  day: tomorrow,
                  label: '',
                  count: 0,
                })),
              },
        ),
      );
    });
  });
  return new Promise<{ address: string; orders: { id: string }[]; close: () => void }>((done) =>
    server.listen(0, '127.0.0.1', () =>
      done({
        address: `127.0.0.1:${(server.address() as AddressInfo).port}`,
        orders,
        close: () => server.close(),
      }),
    ),
  );
}

test('what came wrong in the right box stays out, goes back, and cannot be talked in', async ({ page }) => {
  await signIn(page, 'tomas');
  await openDemo(page, 'big end 4');
  await stage(page, 'Verdict');
  await view(page, 'Order');
  await opened(page);
  const line = page.getByRole('listitem').filter({ hasText: 'set of big-end shells, 0.50' }).first();
  await expect(line.getByText(/Not what was ordered: R1U.C/)).toBeVisible();
  await expect(line.getByRole('button', { name: 'Let it in' })).toHaveCount(0);
  await expectAccessible(page);
  await line.getByRole('button', { name: 'Send back' }).click();
  await line.getByLabel('What is wrong with it').fill('A quarter under in a box for a half.');
  await line.getByRole('button', { name: 'Send back' }).last().click();
  await expect(page.getByRole('heading', { name: /^On its way/ })).toBeVisible();
  await expect(line.getByText('sent back')).toBeVisible();
  // The shaft waits for the block: the gate says so, and the button does not open.
  const pins = page.getByRole('listitem').filter({ hasText: 'Grind undersize' }).first();
  await expect(pins.getByText('Block known to be sound', { exact: false }).first()).toBeVisible();
  await pins.getByRole('button', { name: 'It is ordered' }).click();
  await expect(pins.getByRole('button', { name: 'It is ordered' }).last()).toBeDisabled();
  const paper = await page.request.get(
    (await page.getByRole('link', { name: 'Print for the machine shop' }).getAttribute('href'))!,
  );
  expect((await paper.body()).subarray(0, 4).toString()).toBe('%PDF');
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
});

test('a need is put on the order, asked for, ordered over the line, and let in when it has come', async ({
  page,
}) => {
  const supplier = await supplierListening();
  try {
    await signIn(page, 'ines');
    await page.goto('/suppliers');
    await page.getByLabel('Name', { exact: true }).fill('Harbour Seals');
    await page.getByLabel(/^Answers on the network/).fill(supplier.address);
    await page.getByRole('button', { name: 'Take in' }).click();
    await expect(page.getByText(`answers at ${supplier.address}`, { exact: false })).toBeVisible();
    await expectAccessible(page);
    await page.goto('/');
    await openDemo(page, 'big end 4');
    await stage(page, 'Verdict');
    await view(page, 'Order');
    await opened(page);
    await page.getByRole('button', { name: 'Put on the order: head bolts', exact: false }).dblclick();
    const bolts = page.getByRole('listitem').filter({ hasText: 'head bolts' });
    await expect(bolts).toHaveCount(1);
    await bolts.getByRole('button', { name: 'Change' }).click();
    await bolts.getByLabel('Supplier').fill('Harbour Seals');
    await bolts.getByRole('button', { name: 'Change the line' }).click();
    await page.getByRole('button', { name: 'Ask Harbour Seals for prices' }).click();
    await expect(bolts.getByText('41.50 EUR').first()).toBeVisible();
    await page
      .getByRole('button', { name: /^Take it/ })
      .first()
      .click();
    await expect(bolts.getByText('996.00 EUR')).toBeVisible();
    await page.getByRole('button', { name: 'Order one line from Harbour Seals' }).click();
    await page.getByRole('button', { name: 'Send the order' }).dblclick();
    await expect(bolts.getByText('T-7')).toBeVisible();
    // Sent twice it carries one number, by which the supplier takes it once.
    expect(new Set(supplier.orders.map((o) => o.id)).size).toBe(1);
    await bolts.getByRole('button', { name: 'It has come' }).click();
    await bolts.getByRole('button', { name: 'It has come' }).last().click();
    await bolts.getByRole('button', { name: 'Let it in' }).click();
    await expect(bolts.getByText('Say what you looked at, and how it was.')).toBeVisible();
    await bolts
      .getByLabel('What was looked at, and how it was')
      .fill('Twenty-four, thread and length right.');
    await bolts.getByRole('button', { name: 'Let it in' }).click();
    await bolts.getByRole('button', { name: 'It is fitted' }).click();
    await bolts.getByRole('button', { name: 'It is fitted' }).last().click();
    await expect(page.getByRole('heading', { name: /^Fitted/ })).toBeVisible();
  } finally {
    supplier.close();
  }
});
