import ICAL from 'ical.js';
import { expect, test, type Page } from '@playwright/test';
import { caseOf, newCase, openDemo, phone, signIn, stage } from './shop';

interface Plan {
  at: string;
  ends: string;
  likely: string;
  tasks: { key: string; name: string; notBefore: string | null; starts: string; byItself: boolean }[];
}

const plan = async (page: Page) =>
  (
    (await (await page.request.get(`/api/cases/${caseOf(page)}/answers?rooms=build`)).json()) as {
      build: Plan;
    }
  ).build;

test('what an engine waits for moves its date, is undone at once, and is through at one touch', async ({
  page,
}) => {
  await signIn(page, 'ines');
  await newCase(page, 'Waits for a bottle');
  await stage(page, 'Build');
  await expect(page.getByRole('heading', { name: 'Runs again' })).toBeVisible();
  const before = await plan(page);
  const first = before.tasks.find((t) => t.key === 'strip/record')!;

  await page.getByRole('button', { name: 'Add a task or a wait' }).click();
  await page
    .getByRole('combobox', { name: 'What', exact: true })
    .selectOption('A tool, a bottle, a hired crane');
  await page.getByLabel('What is waited for').fill('Gas bottle filled');
  for (const [field, hours] of [
    ['At least, h', '700'],
    ['Likely, h', '800'],
    ['At most, h', '900'],
  ] as const)
    await page.getByLabel(field).fill(hours);
  await page.getByLabel('What waits for it').selectOption(first.name);
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect.poll(async () => (await plan(page)).likely > before.likely).toBe(true);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect
    .poll(async () => (await plan(page)).tasks.some((t) => t.name === 'Gas bottle filled'))
    .toBe(false);

  await page
    .getByLabel('What is waited for')
    .or(page.getByLabel('What is to be done'))
    .first()
    .waitFor({ state: 'hidden' });
  await page.getByRole('button', { name: 'Add a task or a wait' }).click();
  await page.getByLabel('What is to be done').fill('Make a puller');
  await page.getByRole('button', { name: 'Add it' }).click();
  await page.getByRole('button', { name: /^All \d+$/ }).click();
  const ready = page
    .getByRole('region', { name: 'Now' })
    .getByRole('listitem')
    .filter({ hasText: 'Make a puller' });
  await ready.getByRole('button', { name: 'Through' }).click();
  await expect.poll(async () => (await plan(page)).tasks.some((t) => t.name === 'Make a puller')).toBe(false);
});

test('a bar is moved by keys, and a wait in a circle is refused by name', async ({ page }) => {
  await signIn(page, 'ines');
  await newCase(page, 'Bars and keys');
  await stage(page, 'Build');
  const { tasks } = await plan(page);
  const run = tasks.find((t) => t.key === 'run')!;
  const bar = page.getByRole('button', { name: new RegExp(`^${run.name}, .*move with`) });
  await bar.focus();
  await page.keyboard.press('ArrowRight');
  await expect
    .poll(async () => (await plan(page)).tasks.find((t) => t.key === 'run')!.notBefore)
    .not.toBeNull();

  await page.getByRole('button', { name: 'Add a task or a wait' }).click();
  await page.getByLabel('What is to be done').fill('Paint it');
  await page.getByRole('combobox', { name: 'Waits for', exact: true }).selectOption(run.name);
  await page.getByLabel('What waits for it').selectOption(tasks.find((t) => t.key === 'strip/record')!.name);
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByText(/in a circle: .*Paint it/)).toBeVisible();
  // What was typed still stands there.
  await expect(page.getByLabel('What is to be done')).toHaveValue('Paint it');
});

for (const [by, size] of [
  ['the mouse', { width: 1280, height: 800 }],
  ['a finger', phone],
] as const)
  test(`a bar is pulled to another day by ${by}`, async ({ page }) => {
    await signIn(page, 'ines');
    await newCase(page, `Pulled by ${by}`);
    await page.setViewportSize(size);
    await stage(page, 'Build');
    const bar = page.getByRole('button', { name: /^First run, .*move with/ });
    await bar.scrollIntoViewIfNeeded();
    const box = (await bar.boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    const to = x > size.width / 2 ? x - size.width * 0.1 : x + size.width * 0.1;
    if (by === 'the mouse') {
      await page.mouse.move(x, y);
      await page.mouse.down();
      await page.mouse.move(to, y, { steps: 5 });
      await page.mouse.up();
    } else {
      const touch = await page.context().newCDPSession(page);
      const at = (px: number) => [{ x: px, y, id: 1 }];
      await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: at(x) });
      for (let i = 1; i <= 5; i++)
        await touch.send('Input.dispatchTouchEvent', {
          type: 'touchMove',
          touchPoints: at(x + ((to - x) * i) / 5),
        });
      await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
    }
    await expect
      .poll(async () => (await plan(page)).tasks.find((t) => t.key === 'run')!.notBefore)
      .not.toBeNull();
  });

test('on a phone: what can be done now, a promise against the date, and the plan in a calendar', async ({
  page,
}) => {
  await signIn(page, 'ines');
  await openDemo(page, 'Refrigerated trailer');
  await page.setViewportSize(phone);
  await stage(page, 'Build');
  const now = page.getByRole('region', { name: 'Now' });
  await now.getByRole('button', { name: '20 min' }).click();
  await expect(now.getByRole('listitem').first()).toContainText(/about \d+ min/);
  await now.getByRole('link', { name: 'Go there' }).first().click();
  await expect(page).not.toHaveURL(/\/build$/);
  await page.goBack();

  await page.getByRole('button', { name: /^(A day was promised|Promise another day)$/ }).click();
  let planned = await plan(page);
  const promisedDay = planned.ends.slice(0, 10);
  await page.getByLabel('Day', { exact: true }).fill(promisedDay);
  await page.getByLabel('To whom').fill('Ostler');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText(/Promised to Ostler for/)).toBeVisible();

  // Both of the same quarter of an hour, at which plans begin.
  let text = '';
  let at = '';
  do {
    ({ at } = await plan(page));
    text = await (await page.request.get(`/api/cases/${caseOf(page)}/build.ics`)).text();
    planned = await plan(page);
  } while (planned.at !== at);

  const calendar = new ICAL.Component(ICAL.parse(text) as [string, unknown[], unknown[]]);
  const events = calendar.getAllSubcomponents('vevent').map((e) => new ICAL.Event(e));
  // Tasks, and the likely, the safe and the promised day.
  expect(events).toHaveLength(planned.tasks.length + 3);
  for (const task of planned.tasks.filter((t) => !t.byItself))
    expect(
      events.some(
        (e) => e.summary === task.name && e.startDate.toJSDate().getTime() === Date.parse(task.starts),
      ),
      task.name,
    ).toBe(true);
  const promised = events.find((e) => e.summary.includes('promised to Ostler'))!;
  expect(promised.startDate.isDate).toBe(true);
  expect(promised.startDate.toString()).toBe(promisedDay);
});

test('hours and weather are kept by the shop', async ({ page }) => {
  await signIn(page, 'ines');
  await page.goto('/hours');
  await page.getByLabel('Hours on saturday').fill('9 to noon');
  await page.getByRole('button', { name: 'Write the change' }).click();
  await expect(page.getByText('Write it as 8–12, 13–17, or leave it empty.')).toBeVisible();
  await page.getByLabel('Hours on saturday').fill('9-12');
  await page.getByRole('button', { name: 'Write the change' }).click();
  await expect(page.getByLabel('Hours on saturday')).toHaveValue('09:00–12:00');
  await page.getByLabel('Hours on saturday').fill('');
  await page.getByRole('button', { name: 'Write the change' }).click();
  await expect(page.getByRole('button', { name: 'Write the change' })).toBeDisabled();

  const day = new Date(Date.now() + 2 * 86_400_000).toISOString().slice(0, 10);
  await page.getByLabel('Forecast as a file').setInputFiles({
    name: 'forecast.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`day,dry,coldest\n${day},no,-3\nsoon,yes,1\n`),
  });
  await expect(page.getByText('1 days taken, 1 rows not.')).toBeVisible();
  await expect(page.getByText(/Row 3, day: “soon” is no day/)).toBeVisible();
  await expect(page.getByText('-3 °C')).toBeVisible();
});
