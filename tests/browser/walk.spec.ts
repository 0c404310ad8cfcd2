import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { expect, test } from '@playwright/test';
import { goTo, phone, signIn, signInByForm, stage } from './shop';

const picture = resolve(import.meta.dirname, '../../demo/pictures/shell-r4u.jpg');

/** One engine from arrival to dossier, the way a mechanic goes. */
test('a new engine is taken from arrival to a traced cause and a dossier', async ({ page }) => {
  await signInByForm(page);

  await test.step('a new case; an impossible firing order is refused with the reason', async () => {
    await page.getByRole('link', { name: /new case/i }).click();
    await page.getByLabel('Engine', { exact: false }).first().fill('Orchard sprayer pump, inline four');
    await page.getByLabel('Title of the case').fill('Knock after a regrind');
    await page.getByLabel('Firing order').fill('1 3 4 4');
    await expect(page.getByRole('alert')).toContainText('4');
    await expect(page.getByRole('button', { name: 'Start the case' })).toBeDisabled();
    await page.getByLabel('Firing order').fill('1 3 4 2');
    await page.getByRole('button', { name: 'Start the case' }).click();
    await expect(page).toHaveURL(/\/arrival/);
  });

  await test.step('arrival: complaint, past, compression', async () => {
    await page
      .getByLabel('Complaint, in the customer’s words')
      .fill('Knocks under load since the crank was ground.');
    await page
      .getByRole('group', { name: /ground/i })
      .getByRole('button', { name: 'Yes' })
      .click();
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(page.getByRole('status').filter({ hasText: 'All written.' })).toBeVisible();
    for (const [n, bar] of [12.1, 12.3, 8.2, 12.2].entries()) {
      await page.getByLabel(`Cylinder ${n + 1}, bar`).fill(String(bar));
      await page.getByRole('button', { name: 'Enter' }).click();
      await expect(
        page.getByRole('button', { name: new RegExp(`^Cylinder ${n + 1}, [\\d.]+ bar`) }),
      ).toBeVisible();
    }
    await expect(page.getByText(/Cylinder 3 below 75 %/)).toBeVisible();
  });

  await test.step('strip: what parts two pieces stays locked until the count agrees', async () => {
    await stage(page, 'Strip');
    const done = page.getByRole('button', { name: 'Done', exact: true });
    await expect(page.getByRole('heading', { name: 'Record it as it came' })).toBeVisible();
    await done.click();
    const holds = page.getByRole('group', { name: 'What holds it' });
    await expect(holds).toContainText('Not ticked: Number one settled and written down');
    for (const tick of [/^Number one settled/, /^Barred over/]) {
      await page.getByRole('checkbox', { name: tick }).click();
      await expect(page.getByRole('checkbox', { name: tick })).toBeChecked();
    }
    await done.click();
    await expect(page.getByRole('heading', { name: 'Record it as it came' })).toBeHidden();
    await expect(
      page.getByRole('heading', { name: 'Tests before a bolt is turned', exact: true }),
    ).toBeVisible();
    await done.click();
    await expect(holds).toContainText('Nothing was entered for this step');
    await holds.getByRole('textbox').fill('It is locked solid.');
    await page.getByRole('button', { name: 'Done all the same' }).click();
    await expect(page.getByRole('heading', { name: 'Isolate', exact: true })).toBeVisible();
    for (const tick of [/^Battery disconnected/, /^Fuel shut/]) {
      await page.getByRole('checkbox', { name: tick }).click();
      await expect(page.getByRole('checkbox', { name: tick })).toBeChecked();
    }
    await done.click();
    await expect(page.getByRole('heading', { name: 'Isolate', exact: true })).toBeHidden();
    await page.getByRole('button', { name: /Clutch and flywheel off/ }).click();
    await expect(page.getByText(/^■ Locked: 12 of 12 still hold/)).toBeVisible();
    await page.getByRole('button', { name: 'pressure plate bolts: all 6 out' }).click();
    await expect(page.getByText(/^■ Locked: 6 of 12 still hold/)).toBeVisible();
    await done.click();
    await expect(holds).toContainText('flywheel bolts: 0 out, 6 expected');
    await page.getByRole('button', { name: 'flywheel bolts: all 6 out' }).click();
    await expect(page.getByText(/^■ Locked/)).toBeHidden();
    await done.click();
    await expect(page.getByText('12 fasteners out').first()).toBeVisible();
  });

  await test.step('index: rod and cap tagged, the mate check tells match and not mates', async () => {
    await stage(page, 'Index');
    for (const place of ['R3', 'R3C']) {
      await goTo(page, place);
      const drawer = page.getByRole('dialog');
      await drawer.getByRole('button', { name: 'Engraver' }).click();
      await drawer.getByRole('button', { name: 'Left', exact: true }).click();
      await drawer.getByLabel('Which row, bag, box or shop').fill('row 3');
      await drawer.getByRole('button', { name: /^(Tag|Write)/ }).click();
      await expect(drawer.getByText('Engraver, on the bench, row 3')).toBeVisible();
      await drawer.getByRole('button', { name: 'Close' }).click();
    }
    await page.getByLabel('One tag').fill('R3');
    await page.getByLabel('The other').fill('R3C');
    await page.getByRole('button', { name: 'Check' }).click();
    await expect(page.getByText('Match', { exact: true })).toBeVisible();
    await page.getByLabel('The other').fill('R2C');
    await page.getByRole('button', { name: 'Check' }).click();
    await expect(page.getByText('Not mates', { exact: true })).toBeVisible();
  });

  await test.step('look: a sign seen, a sign not there, a photograph', async () => {
    await stage(page, 'Look');
    await goTo(page, 'R3U');
    await page.getByRole('button', { name: /wiped/i }).first().click();
    await page.getByRole('button', { name: /^3 severe/ }).click();
    await page.getByRole('button', { name: 'middle, crown' }).click();
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(page.getByRole('main').getByText('Overlay wiped, severe', { exact: true })).toBeVisible();
    await page
      .getByRole('button', { name: /^Scored/ })
      .first()
      .click();
    await page.getByRole('button', { name: /^Not there/ }).click();
    await expect(page.getByText('Checked, not there: 1')).toBeVisible();
    await page.getByLabel('Picture files').last().setInputFiles(picture);
    await expect(page.getByRole('img', { name: 'Photograph of R3U' })).toBeVisible();
  });

  await test.step('gauge: rounds typed as people type; a wrong size is loud', async () => {
    await stage(page, 'Gauge');
    const limit = async (name: string, nominal: string) => {
      await page.getByText('Add a limit').click();
      await page.getByLabel('Of what').selectOption({ label: name });
      await page.getByLabel('Source: manual and page').fill('workshop manual, page 4');
      await page.getByLabel('Standard size').fill(nominal);
      await page.getByRole('button', { name: 'Set the limit' }).click();
      await expect(page.getByText(`standard ${Number(nominal.split(' ')[0]).toFixed(3)}`)).toBeVisible();
      await page.getByText('Add a limit').click();
    };
    await limit('Crankpin diameter', '53.250');
    await limit('Shell wall at the crown', '1.500');

    await page.getByRole('button', { name: /^Crankpin diameter/ }).click();
    const figure = page.getByLabel(/^Type the figure/);
    // Four pins, each at two stations in two directions.
    const pins = ['53.24', '53.245 mm', '52.99', '2.0964 in'];
    for (let i = 0; i < 16; i++) {
      await expect(page.getByText(`Crankpin diameter, ${i + 1} of 16`)).toBeVisible();
      await figure.fill(pins[Math.floor(i / 4)]!);
      await figure.press('Enter');
    }
    await expect(page.getByRole('heading', { name: 'Round finished' })).toBeVisible();
    await page.getByRole('button', { name: 'To the results' }).click();

    await page.getByRole('button', { name: /^Shell wall at the crown, big ends/ }).click();
    for (let i = 0; i < 8; i++) {
      await expect(page.getByText(`Shell wall at the crown, big ends, ${i + 1} of 8`)).toBeVisible();
      await figure.fill('1.495');
      await figure.press('Enter');
    }
    await expect(page.getByText(/Wrong size\./).first()).toBeVisible();
    await page.getByRole('button', { name: 'To the results' }).click();
    await expect(page.getByRole('alert').filter({ hasText: 'Wrong size at R3' })).toBeVisible();
  });

  await test.step('a figure in the wrong unit is asked about', async () => {
    await page.getByText(/^Measured: /).click();
    await page.getByRole('button', { name: /^Crankpin diameter/ }).click();
    const figure = page.getByLabel(/^Type the figure/);
    await figure.fill('2.096');
    await figure.press('Enter');
    await expect(page.getByText('typed in millimetres but meant in inches')).toBeVisible();
    await page.getByRole('button', { name: 'End the round' }).click();
    await page.getByRole('button', { name: 'To the results' }).click();
  });

  await test.step('trace: wrong size at rod 3 leads; a new finding moves it', async () => {
    await stage(page, 'Trace');
    const causes = page.getByRole('list', { name: 'Causes, likeliest first' });
    await expect(causes.getByRole('button').first()).toContainText('R3');
    const before = await causes.innerText();
    await expect(page.getByText('Speaks for it')).toBeVisible();
    await stage(page, 'Look');
    await goTo(page, 'PK');
    await expect(page.getByRole('heading', { name: 'oil pickup and screen' })).toBeVisible();
    await page.getByRole('button', { name: /^Pickup screen blocked/ }).click();
    await page.getByRole('button', { name: /^3 severe/ }).click();
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(
      page.getByRole('main').getByText('Pickup screen blocked, severe', { exact: true }),
    ).toBeVisible();
    await stage(page, 'Trace');
    await expect.poll(() => causes.innerText()).not.toBe(before);
  });

  await test.step('own finding, a verdict, the dossier with its picture', async () => {
    await page.getByRole('combobox', { name: 'Cause' }).selectOption({ index: 1 });
    await page.getByRole('textbox', { name: 'Place', exact: true }).fill('R3');
    await page.getByRole('button', { name: 'Probable', exact: true }).click();
    await page.getByRole('textbox', { name: 'Reasons' }).fill('Standard shells on a journal ground under.');
    await page.getByRole('button', { name: 'Put it in the dossier' }).click();
    await expect(page.getByText('Probable:', { exact: true })).toBeVisible();
    await stage(page, 'Verdict');
    await goTo(page, 'K3');
    const drawer = page.getByRole('dialog');
    await drawer.getByRole('tab', { name: 'Verdict' }).click();
    await drawer.getByRole('combobox', { name: 'Decide' }).selectOption({ label: 'Polish' });
    await drawer
      .getByRole('textbox', { name: /^Why, as it is not/ })
      .fill('Polish and fit shells for the size it has.');
    await drawer.getByRole('button', { name: 'Polish: K3' }).click();
    await expect(drawer.getByText('Polish and fit shells', { exact: false }).first()).toBeVisible();
    await drawer.getByRole('button', { name: 'Close' }).click();
    await stage(page, 'Dossier');
    const paper = page.frameLocator('iframe');
    await expect(paper.getByText('Standard shells on a journal ground under.')).toBeVisible();
    await expect(paper.getByText('Polish and fit shells for the size it has.')).toBeVisible();
    await page.getByRole('button', { name: /^Customer’s letter/ }).click();
    await expect(paper.getByRole('heading', { name: 'What we found', level: 1 })).toBeVisible();
    await expect(paper.getByRole('img', { name: /^Photograph of upper shell/ }).first()).toBeVisible();
    await expect(paper.getByText(/Probable: /)).toBeVisible();
    const [letter] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save as PDF' }).click(),
    ]);
    expect(
      readFileSync(await letter.path())
        .subarray(0, 5)
        .toString(),
    ).toBe('%PDF-');
  });

  await test.step('the case file comes out and goes in as a new case', async () => {
    await stage(page, 'Arrival');
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save the case file' }).click(),
    ]);
    const path = await download.path();
    expect(JSON.parse(readFileSync(path, 'utf8')).format).toBe('vivid-sleuth-case');
    const from = page.url();
    await page.getByRole('link', { name: 'Casebook' }).click();
    await page.locator('input[type=file]').setInputFiles(path);
    await expect(page).toHaveURL(/\/cases\/[0-9a-f-]{36}\/arrival/);
    expect(page.url()).not.toBe(from);
    await stage(page, 'Trace');
    await expect(page.getByText('Standard shells on a journal ground under.', { exact: true })).toBeVisible();
  });
});

test('a newcomer is walked through an engine that ships with the program, on a phone, and may leave', async ({
  page,
}) => {
  await page.setViewportSize(phone);
  await signIn(page, 'tomas');
  await page.goto('/');
  await page.getByRole('button', { name: 'First walk, ten minutes' }).click();
  const walk = page.getByRole('region', { name: 'First walk' });
  const there = walk.getByRole('link', { name: 'Take me there' });
  await expect(walk).toContainText('1 of 5: Tag the cap of rod 2');
  await there.click();
  await page.getByRole('button', { name: 'Engraver' }).click();
  await page.getByRole('button', { name: 'Tag R2C' }).click();
  await expect(walk).toContainText('2 of 5');
  await page.getByRole('button', { name: 'Close' }).click();
  await there.click();
  await page.getByLabel('Picture files').first().setInputFiles(picture);
  await expect(walk).toContainText('3 of 5');
  await page
    .getByRole('button', { name: /^Overlay wiped/ })
    .first()
    .click();
  await page
    .getByRole('button', { name: /^3 severe/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Save', exact: true }).first().click();
  await expect(walk).toContainText('4 of 5: Measure crankpin 2');
  await there.click();
  // The first pin is measured already: the round goes on at the second.
  await expect(page.getByText('Crankpin diameter, 5 of 8')).toBeVisible();
  const figure = page.getByLabel(/^Type the figure/);
  await figure.fill('39.74');
  await figure.press('Enter');
  const keep = page.getByRole('button', { name: /^Keep/ });
  await expect(keep.or(page.getByText('Crankpin diameter, 6 of 8')).first()).toBeVisible();
  if (await keep.isVisible()) await keep.click();
  await expect(walk).toContainText('5 of 5');
  await there.click();
  await expect(page.getByRole('region', { name: 'In short' })).toContainText('Shells of the wrong size');
  await expect(walk).toContainText('That was the walk');
  await walk.getByRole('button', { name: 'End' }).click();
  await expect(walk).toHaveCount(0);
  await page.reload();
  await expect(page.getByRole('region', { name: 'In short' })).toBeVisible();
  await expect(walk).toHaveCount(0);
  // Once more, from anywhere and by the one field.
  await goTo(page, 'First walk');
  await expect(walk).toContainText('1 of 5: Tag the cap of rod 2');
});
