import { expect, test, type Page } from '@playwright/test';
import {
  caseOf,
  expectAccessible,
  expectNoSidewaysScroll,
  kept,
  openDemo,
  phone,
  signIn,
  stage,
} from './shop';

interface Way {
  stops: { key: string }[];
  sets: { set: string; stands: string }[];
}

const way = async (page: Page, key: string) => {
  const answers = (await (
    await page.request.get(`/api/cases/${caseOf(page)}/answers?rooms=build`)
  ).json()) as { build: { tasks: { key: string; way: Way }[] } };
  return answers.build.tasks.find((t) => t.key === key)!.way;
};

test('with no network the bolt that was left over goes home and the plate is tightened by its passes', async ({
  page,
  context,
}) => {
  await page.setViewportSize(phone);
  await signIn(page, 'ines');
  await openDemo(page, 'Harbour pump, going back together');
  await stage(page, 'Build');
  await expect(page.getByText('Left over:')).toBeVisible();
  await kept(page, 'build');
  await context.setOffline(true);
  await page.getByRole('button', { name: 'Go on with it' }).click();
  await page.getByRole('button', { name: 'Hole 9 filled' }).click();
  await page.getByRole('button', { name: 'Pass 1 done' }).click();
  await page.getByRole('button', { name: 'Pass 2 done' }).click();
  await expect(page.getByText('● tight', { exact: true }).first()).toBeVisible();
  await expectNoSidewaysScroll(page);
  await context.setOffline(false);
  await expect
    .poll(async () => (await way(page, 'back/bed-plate')).sets[0]!.stands, { timeout: 20_000 })
    .toBe('tight');
  expect((await way(page, 'back/bed-plate')).stops).toEqual([]);
});

test('a new joint goes in off the order, a torque comes from its page, and what holds a step is named', async ({
  page,
}) => {
  await signIn(page, 'ines');
  await openDemo(page, 'Harbour pump, going back together');
  await page.goto(`/cases/${caseOf(page)}/build?task=back%2Fhead`);
  await page.getByRole('button', { name: 'Put it in' }).click();
  await page.getByRole('button', { name: 'It is in' }).click();
  await expect(page.getByText('✓ in, new')).toBeVisible();
  await page.getByRole('button', { name: 'Faces dry and clean' }).click();
  await expect(page.getByRole('button', { name: /Faces dry and clean/, pressed: true })).toBeVisible();
  await expectAccessible(page);
  await expect
    .poll(async () => (await way(page, 'back/head')).stops.map((s) => s.key))
    .not.toContain('part/H1J');

  await page.goto(`/cases/${caseOf(page)}/build?task=back%2Fignition`);
  await expect(page.getByText('Figure missing.', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Type it from the manual' }).click();
  await page.getByLabel('Manual, or who sets it').fill('Kestrow P-2 workshop manual');
  await page.getByLabel('Passes').fill('5,5');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('One pass after the other', { exact: false })).toBeVisible();
  await page.getByLabel('Passes').fill('5.5');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('A figure of the maker’s needs its page.')).toBeVisible();
  await page.getByLabel('Page').fill('22');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('Kestrow P-2 workshop manual, page 22')).toBeVisible();
});
