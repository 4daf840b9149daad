import { expect, test as base, type Page } from '@playwright/test';

export const address = (): string => process.env['E2E_ADDRESS']!;
export const standins = (): string => process.env['E2E_STANDINS']!;

/** Has the stand-ins answer with trouble of a kind; without one, all trouble ends. */
export const faults = (trouble?: object): Promise<Response> =>
  fetch(
    `${standins()}/faults`,
    trouble
      ? { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(trouble) }
      : { method: 'DELETE' },
  );

export async function signIn(page: Page, email = 'mara@cloverhollow.example'): Promise<void> {
  await page.goto(`${address()}/sign-in`);
  await page.getByLabel('E-mail address').fill(email);
  await page.getByLabel('Password').fill('clover-hollow');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Today' })).toBeVisible();
}

/** Signs somebody of the CRM's people in to its own pages. */
export async function signInToCrm(page: Page, login: string, back = '/crm/'): Promise<void> {
  await page.goto(`${standins()}/crm/sign-in?back=${back}`);
  await page.getByLabel('Login').fill(login);
  await page.getByLabel('Password').fill('clover-hollow');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('button', { name: 'Sign out' })).toBeVisible();
}

/** A signed-in page; anything the browser complains about fails the test. */
export const test = base.extend<{ app: Page }>({
  app: async ({ page }, use) => {
    const complaints: string[] = [];
    page.on('pageerror', (error) => complaints.push(error.message));
    page.on('console', (message) => {
      // A 4xx that the page shows in words is logged by the browser as well.
      if (message.type() === 'error' && !/status of 4\d\d/.test(message.text())) complaints.push(message.text());
    });
    await signIn(page);
    await use(page);
    expect(complaints).toEqual([]);
  },
});

/** Narrows an open list by typing and takes what it comes to; Enter takes what is marked, so that is waited for. */
export async function pick(page: Page, placeholder: string, typed: string): Promise<void> {
  await page.getByPlaceholder(placeholder).fill(typed);
  const marked = page.locator('[cmdk-item][data-selected="true"]');
  await expect(marked).toContainText(new RegExp(typed.split(' ')[0]!, 'i'));
  await page.keyboard.press('Enter');
  await expect(page.getByPlaceholder(placeholder)).toHaveCount(0);
}

export { expect };
