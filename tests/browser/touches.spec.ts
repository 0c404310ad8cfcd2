import { expect, test, type Locator, type Page } from '@playwright/test';
import { caseOf, newCase, offers, openDemo, openPage, phone, record, signIn, stage } from './shop';

/** Counts what a hand does: touches and keys; text that is typed counts as none, as the issue of speed is finding the way. */
function hand(page: Page) {
  let count = 0;
  return {
    get count() {
      return count;
    },
    async tap(what: Locator) {
      count++;
      await what.filter({ visible: true }).first().click();
    },
    async press(key: string) {
      count++;
      await page.keyboard.press(key);
    },
  };
}

const goesAnywhere = (page: Page) => page.getByRole('button', { name: /^Go anywhere/ });
const field = (page: Page) => page.getByRole('combobox', { name: /^Go anywhere/ });

for (const [size, view] of [
  ['a desk', { width: 1280, height: 800 }],
  ['a phone', phone],
] as const) {
  test(`on ${size}: two tags, the worst cylinder, a label and any page are a few touches away`, async ({
    page,
  }) => {
    await signIn(page, 'ines');
    await openDemo(page, 'Biogas generator');
    await page.setViewportSize(view);
    await stage(page, 'Trace');

    const mates = hand(page);
    await mates.tap(goesAnywhere(page));
    await field(page).fill('R4 R4C');
    await mates.tap(offers(page).filter({ hasText: /Do R4 and R4C belong together/ }));
    await expect(
      page.getByText(/^(Match|Mates|A pair|They belong together|Wrong way round)/i).first(),
    ).toBeVisible();
    expect(mates.count).toBeLessThanOrEqual(2);

    const worst = hand(page);
    await worst.tap(page.getByRole('link', { name: /^worst: cylinder/ }));
    await expect(page).toHaveURL(/\/station\/cylinder-\d/);
    await expect(page.getByRole('heading', { name: /cylinder 4/i }).first()).toBeVisible();
    expect(worst.count).toBe(1);

    const label = hand(page);
    await label.tap(goesAnywhere(page));
    await field(page).fill('R4C');
    await label.tap(offers(page).first());
    await page.getByRole('tab', { name: 'Tag' }).click();
    await expect(
      page
        .getByRole('link', { name: 'Its label as PDF' })
        .or(page.getByRole('button', { name: 'Print its label' }))
        .first(),
    ).toBeVisible();
    expect(label.count).toBeLessThanOrEqual(2);
    await page.keyboard.press('Escape');

    const any = hand(page);
    await any.tap(goesAnywhere(page));
    await field(page).fill('instruments');
    await any.tap(offers(page).filter({ hasText: /Instruments/ }));
    await expect(page).toHaveURL(/\/instruments/);
    expect(any.count).toBeLessThanOrEqual(3);
  });

  test(`on ${size}: a finding is four touches, all clear one, the unit two, a correction three`, async ({
    page,
  }) => {
    await signIn(page, 'ines');
    await newCase(page, `Touches on ${size}`);
    const id = caseOf(page);
    await page.setViewportSize(view);

    await page.goto(`/cases/${id}/look?part=P2`);
    const finding = hand(page);
    await finding.tap(page.getByRole('button', { name: /^Skirt scuffed on the thrust side/ }));
    await finding.tap(page.getByRole('button', { name: /^2 moderate/ }));
    await finding.tap(page.getByRole('button', { name: 'Save' }));
    await expect.poll(async () => (await record(page, id)).findings.length).toBe(1);
    expect(finding.count).toBeLessThanOrEqual(4);

    await page.goto(`/cases/${id}/look?part=P3`);
    const clear = hand(page);
    await clear.tap(page.getByRole('button', { name: 'All clear' }));
    await expect.poll(async () => (await record(page, id)).findings.length).toBeGreaterThan(5);
    expect(clear.count).toBe(1);

    await page.goto(`/cases/${id}/gauge?part=K1`);
    await page.getByRole('tab', { name: 'Measure' }).click();
    const entry = page.getByLabel(/ of K1$/).first();
    await entry.fill('71.99 mm');
    await entry.press('Enter');
    await expect.poll(async () => (await record(page, id)).readings.length).toBe(1);
    const correct = hand(page);
    await correct.tap(page.getByRole('button', { name: 'Correct' }));
    await entry.fill('71.98 mm');
    await correct.press('Enter');
    await expect.poll(async () => (await record(page, id)).readings.length).toBe(2);
    expect(correct.count).toBeLessThanOrEqual(3);

    await page.keyboard.press('Escape');
    const unit = hand(page);
    await unit.tap(
      page.getByRole('button', { name: view.width < 700 ? /: other stages and pages$/ : /^ines/ }),
    );
    await unit.tap(
      page
        .getByRole('menuitemradio', { name: 'inches' })
        .or(page.getByRole('button', { name: 'inches', exact: true })),
    );
    expect(unit.count).toBe(2);
  });
}
