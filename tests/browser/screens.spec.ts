import { expect, test, type Page } from '@playwright/test';
import {
  caseOf,
  expectAccessible,
  expectNoSidewaysScroll,
  find,
  goTo,
  newCase,
  offers,
  openDemo,
  openPage,
  opened,
  phone,
  record,
  signIn,
  stage,
} from './shop';

const stages = ['Arrival', 'Strip', 'Index', 'Look', 'Gauge', 'Trace', 'Verdict', 'Build', 'Dossier'];

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
  await openPage(page, 'Tools', 'Calculators');
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
  await stage(page, 'Look');
  const section = page.getByRole('group', { name: 'Long section of the engine' }).first();
  await section.getByRole('button', { name: /^R1, / }).focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/part=(L1|R1|K1)/);
});

/**
 * Parts of the drawing that are not hit by somebody who aims within half a touch of where they are touched: a bore at its wider wall, a joint at
 * its tab, a piston at its skirt. A head and a camshaft lie behind what stands in them, and are touched anywhere between.
 */
const missed = (page: Page, size: number) =>
  page.getByRole('group', { name: 'Long section of the engine' }).evaluate((section, side) => {
    const frame = section.querySelector('.overflow-x-auto')!;
    const wrong: string[] = [];
    const parts = [...section.querySelectorAll<SVGElement>('[data-address]')];
    for (const part of parts) {
      const address = part.dataset['address']!;
      const aim = part.querySelector('path') ?? part;
      part.scrollIntoView({ block: 'center', inline: 'center' });
      if (/^H\dJ$/.test(address)) frame.scrollLeft = frame.scrollWidth;
      const box = aim.getBoundingClientRect();
      if (Math.round(Math.min(box.width, box.height)) < side && !/^H\dJ$/.test(address))
        wrong.push(`${address} is small`);
      if (/^(H\d|CM\d)$/.test(address)) continue;
      const below = part.getBoundingClientRect().bottom - side / 2 - 1;
      const [x, y] = /^C\d+$/.test(address)
        ? [box.left + side / 2, box.top + box.height / 2]
        : /^H\dJ$/.test(address)
          ? [box.right - side / 2 - 1, box.top + box.height / 2]
          : /^P\d+$/.test(address)
            ? [
                box.left + side / 2,
                document.elementFromPoint(box.left + side / 2, below)?.closest('[data-address]') === part
                  ? below
                  : box.top + side / 2 + 1,
              ]
            : [box.left + box.width / 2, box.top + box.height / 2];
      const far = side / 2 - 2;
      // A rod is narrow where its lobes stand beside it.
      for (const [dx, dy] of /^R\d+$/.test(address)
        ? [[0, 0]]
        : [
            [0, 0],
            [far, 0],
            [-far, 0],
            [0, far],
            [0, -far],
          ]) {
        const hit = document.elementFromPoint(x + dx!, y + dy!)?.closest('[data-address]');
        if (hit !== part) wrong.push(`${address} gives ${hit?.getAttribute('data-address')} at ${dx},${dy}`);
      }
    }
    frame.scrollLeft = 0;
    return { parts: parts.length, wrong };
  }, size);

test('every part of the section is as large as a touch, of an engine in line and of a vee of sixteen', async ({
  page,
}) => {
  await signIn(page);
  await openDemo(page, 'big end 4');
  await stage(page, 'Look');
  expect(await missed(page, 24)).toEqual({ parts: expect.any(Number), wrong: [] });
  await page.getByRole('button', { name: 'Larger' }).click();
  expect(await missed(page, 44)).toEqual({ parts: expect.any(Number), wrong: [] });
  const layouts = await (await page.request.get('/api/layouts')).json();
  const vee = layouts.find((l: { name: string }) => l.name.startsWith('V8, pushrods')).layout;
  const id = crypto.randomUUID();
  const made = await page.request.post('/api/cases', {
    headers: { 'X-Sleuth': '1' },
    data: {
      id,
      title: 'Sixteen of a dredger',
      engineName: 'Tollan D-16',
      owner: 'Harbour board',
      layout: { ...vee, cylinders: 16, firingOrder: Array.from({ length: 16 }, (_, i) => i + 1) },
    },
  });
  expect(made.ok(), await made.text()).toBe(true);
  await page.goto(`/cases/${id}/look`);
  const { parts, wrong } = await missed(page, 24);
  expect(wrong).toEqual([]);
  expect(parts).toBeGreaterThan(250);
  const height = () =>
    page
      .getByRole('group', { name: 'Long section of the engine' })
      .evaluate((e) => e.getBoundingClientRect().height);
  const both = await height();
  await page.getByRole('button', { name: 'Bank B' }).click();
  await expect(page.getByRole('button', { name: /^R2, / })).toBeVisible();
  await expect(page.getByRole('button', { name: /^R1, / })).toHaveCount(0);
  expect(await height()).toBeLessThan(both * 0.75);
  await expectNoSidewaysScroll(page);
});

test('all of a cylinder is one page, the worst one touch away, from the number over it and by its name', async ({
  page,
}) => {
  await signIn(page);
  await openDemo(page, 'big end 4');
  await page.getByRole('link', { name: 'worst: cylinder 4' }).click();
  await expect(page.getByRole('heading', { name: 'Cylinder 4', level: 1 })).toBeVisible();
  await expect(page.getByText(/^the worst of 6: 2 severe/)).toBeVisible();
  const parts = page.getByRole('list', { name: 'Its parts' });
  await expect(parts.getByRole('listitem').first()).toContainText(/severe|moderate|slight/);
  await expectAccessible(page);
  await parts.getByRole('button', { name: /^R4U/ }).click();
  await expect(page.getByRole('dialog')).toContainText('R4U');
  await page.goBack();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page.getByRole('heading', { name: 'Cylinder 4', level: 1 })).toBeVisible();
  await page.getByRole('link', { name: 'Cylinder 5' }).first().click();
  await expect(page).toHaveTitle(/^Cylinder 5 · Biogas/);
  await find(page);
  await page.getByRole('combobox', { name: /^Go anywhere/ }).fill('everything about main 4');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Main 4', level: 1 })).toBeVisible();
  await stage(page, 'Look');
  await page.getByRole('button', { name: 'Cylinder 2, all of it' }).click();
  await expect(page.getByRole('heading', { name: 'Cylinder 2', level: 1 })).toBeVisible();
  await page.setViewportSize(phone);
  await expectNoSidewaysScroll(page);
});

test('what somebody points at is told in words, and two lenses share each part', async ({ page }) => {
  await signIn(page);
  await openDemo(page, 'big end 4');
  await stage(page, 'Look');
  const engine = page.getByRole('region', { name: 'The engine' });
  await engine.getByRole('button', { name: /^R4U, / }).hover();
  await expect(engine).toContainText(/R4U upper shell.*in a bag.*severe.*replace/);
  await engine.getByLabel(/^Beside it/).selectOption('Limit used');
  await expect(page).toHaveURL(/beside=limit/);
  await expect(engine.getByRole('button', { name: /^K4, .*per cent|^K4, .*% of the limit/ })).toBeVisible();
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
  await expect(page.getByRole('button', { name: 'Save', exact: true })).toHaveCount(0);
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
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('This was not saved');
  await context.setOffline(false);
  await page.reload();
  await expect(complaint).toHaveValue(words);
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('status').filter({ hasText: 'All written.' })).toBeVisible();
});

test('a wrong address says what would be right', async ({ page }) => {
  await signIn(page);
  await openDemo(page, 'big end 4');
  await find(page);
  await page.getByRole('combobox', { name: /^Go anywhere/ }).fill('R99');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Nothing here is called “R99”')).toBeVisible();
  await page.goto(`/cases/${caseOf(page)}/station/cylinder-9`);
  await expect(page.getByRole('heading', { name: 'This engine has no cylinder 9' })).toBeVisible();
});

test('one field goes anywhere: by a key, in the trade’s words, and does what is asked', async ({ page }) => {
  await signIn(page, 'tomas');
  const go = async (typed: string, first: string) => {
    await find(page);
    await page.getByRole('combobox', { name: /^Go anywhere/ }).fill(typed);
    await expect(offers(page).first()).toContainText(first);
    await page.keyboard.press('Enter');
  };
  await go('compresion ratio', 'Compression ratio');
  await expect(page).toHaveURL(/\/reckon\//);
  await go('big end 4 generator', 'Biogas generator, big end 4');
  await expect(page).toHaveURL(/\/cases\//);
  await opened(page);
  await go('order', 'The order');
  await expect(page).toHaveURL(/view=order/);
  await find(page);
  await page.getByRole('combobox', { name: /^Go anywhere/ }).fill('crankpin 4');
  await expect(offers(page).first()).toContainText('K4');
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await find(page);
  await page.getByRole('combobox', { name: /^Go anywhere/ }).fill('qqqqxx');
  await expect(page.getByText('Nothing here is called “qqqqxx”.', { exact: false })).toBeVisible();
  await page.keyboard.press('Escape');
  const before = (await record(page, caseOf(page))).findings.length;
  await go('looked clean C2', 'all clear');
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

test('a plan and a round on paper fit a phone and name the file after the case', async ({ page }) => {
  await signIn(page, 'tomas');
  await openDemo(page, 'fire pump');
  const id = caseOf(page);
  await page.setViewportSize(phone);
  await page.addInitScript(() => {
    window.print = () => {
      document.documentElement.dataset.printed = document.title;
      window.dispatchEvent(new Event('afterprint'));
    };
  });
  for (const [address, names] of [
    ['strip?paper=1', /^Portable fire pump.*steps/],
    ['gauge?round=bore-diameter&paper=1', /^Portable fire pump.*Bore diameter/],
  ] as const) {
    await page.goto(`/cases/${id}/${address}`);
    await page.getByRole('button', { name: 'Print' }).click();
    await expect(page.locator('html')).toHaveAttribute('data-printed', names);
    expect(await page.title()).toMatch(/Vivid Sleuth$/);
    await expectNoSidewaysScroll(page);
    await expectAccessible(page);
    // Light on paper, whatever the screen is.
    await page.evaluate(() => (document.documentElement.dataset.theme = 'dark'));
    await page.emulateMedia({ media: 'print' });
    await expect(page.locator('body')).toHaveCSS('background-color', 'rgb(255, 255, 255)');
    await expect(page.getByRole('navigation', { name: 'At the thumb' })).toBeHidden();
    expect(
      await page.evaluate(() => getComputedStyle(document.documentElement).getPropertyValue('--color-ink')),
    ).toBe('#17212b');
    await page.emulateMedia({ media: 'screen' });
  }
});

test('the engine is looked at as it was at each moment of the strip, by keys too', async ({ page }) => {
  await signIn(page, 'ines');
  await openDemo(page, 'big end 4');
  await stage(page, 'Look');
  await page.getByLabel('Show', { exact: true }).selectOption('On and off');
  const slider = page.getByRole('slider', { name: 'Moment of the strip' });
  await expect(page.getByText(/of 274 parts off \(now\)$/)).toBeVisible();
  await slider.focus();
  await page.keyboard.press('Home');
  await expect(slider).toHaveAttribute('aria-valuetext', /^As it came: \w+ of 274 parts off$/);
  const pin = page.locator('[data-address="K4"]').first();
  await pin.hover();
  await expect(page.getByText(/crankpin 4 · on the engine/)).toBeVisible();
  await page.keyboard.press('End');
  await expect(page.getByText(/crankpin 4 · off since .*, “Main caps off, crankshaft out”/)).toBeVisible();
  await expectAccessible(page);
});

for (const [name, width, height, text] of [
  ['a phone of 360 px', 360, 740, 16],
  ['a desk at twice the size', 640, 400, 16],
  ['a desk with letters twice as large', 1280, 800, 32],
  ['a phone with letters twice as large', 390, 844, 32],
] as const)
  test(`nothing runs out of the side of ${name}`, async ({ page }) => {
    await signIn(page, 'ines');
    await openDemo(page, 'big end 4');
    const six = `/cases/${caseOf(page)}`;
    await page.addInitScript((px) => {
      addEventListener('DOMContentLoaded', () => (document.documentElement.style.fontSize = `${px}px`));
    }, text);
    await page.setViewportSize({ width, height });
    for (const at of [
      ...stages.map((s) => s.toLowerCase()),
      'look?part=P3',
      'gauge?round=crankpin-diameter',
      'verdict?view=order',
      'station/cylinder-4',
    ]) {
      await page.goto(`${six}/${at}`);
      await opened(page);
      await expectNoSidewaysScroll(page);
    }
    for (const at of ['/', '/instruments', '/stock', '/atlas', '/reckon/taper', '/shop']) {
      await page.goto(at);
      await opened(page);
      await expectNoSidewaysScroll(page);
    }
  });

test('a tag that was a slip is undone at once, one that was changed becomes what it was, and an old one is taken back with a reason', async ({
  page,
}) => {
  await signIn(page, 'ines');
  await newCase(page, 'Tags undone');
  const id = caseOf(page);
  const tags = async () =>
    ((await record(page, id)).parts as { place: string; where: string; withdrawnAt: string | null }[])
      .filter((p) => p.withdrawnAt === null)
      .map((p) => `${p.place} ${p.where}`);
  await page.goto(`/cases/${id}/index?part=R4`);
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Which row, bag, box or shop').fill('row 2');
  await dialog.getByRole('button', { name: 'Tag R4', exact: true }).click();
  await expect.poll(tags).toEqual(['R4 row 2']);
  const undo = page.getByRole('button', { name: /^Undo/ });
  await undo.click();
  await expect.poll(tags).toEqual([]);
  await dialog.getByLabel('Which row, bag, box or shop').fill('row 3');
  await dialog.getByRole('button', { name: 'Tag R4', exact: true }).click();
  await expect.poll(tags).toEqual(['R4 row 3']);
  await dialog.getByLabel('Which row, bag, box or shop').fill('row 9');
  await dialog.getByRole('button', { name: 'Change the tag' }).click();
  await expect.poll(tags).toEqual(['R4 row 9']);
  await undo.click();
  await expect.poll(tags).toEqual(['R4 row 3']);
  await dialog.getByRole('button', { name: 'Take the tag back' }).click();
  await dialog.getByLabel('Why').fill('It was the rod of another engine.');
  await dialog.getByRole('button', { name: 'Take the tag back' }).click();
  await expect.poll(tags).toEqual([]);
});
