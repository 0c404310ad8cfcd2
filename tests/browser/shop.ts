import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

export const phone = { width: 390, height: 844 };

/** Signs in through the form, as a person does. */
export async function signIn(page: Page, name = 'tomas') {
  await page.goto('/');
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Password').fill(`demo-${name}-bench`);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('link', { name: 'Casebook' })).toBeVisible();
}

/** Goes to a stage of the case that is open. */
export async function stage(page: Page, name: string) {
  await page.getByRole('navigation', { name: 'Stages of the case' }).getByRole('link', { name }).click();
  await expect(page).toHaveURL(new RegExp(`/${name.toLowerCase()}(\\?|$)`));
}

/** Opens a part by typing its address. */
export async function goTo(page: Page, address: string) {
  await page.getByLabel('Go to an address').fill(address);
  await page.getByRole('button', { name: 'Open', exact: true }).click();
}

/** Opens the demo case whose title is given. */
export async function openDemo(page: Page, title: string) {
  await page.goto('/');
  await page.getByRole('link', { name: new RegExp(title) }).click();
  await expect(page.getByRole('navigation', { name: 'Stages of the case' })).toBeVisible();
}

/** Nothing that axe-core calls serious or critical. */
export async function expectAccessible(page: Page) {
  const found = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa']).analyze();
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
