import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { address, expect, standins, test } from './stage.ts';

/** A form that is paid: by keyboard alone on a telephone's width, without a script, and what becomes of it. */

const WIDTHS = [320, 480, 1280];

async function clean(page: Page): Promise<void> {
  const tags = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];
  for (const width of WIDTHS) {
    await page.setViewportSize({ width, height: 800 });
    const { violations } = await new AxeBuilder({ page }).withTags(tags).analyze();
    expect(
      violations.map(({ id, nodes }) => `${width} ${id}: ${nodes.map(({ html }) => html.slice(0, 160)).join(' | ')}`),
    ).toEqual([]);
    const sideways = await page.evaluate('document.documentElement.scrollWidth - innerWidth');
    expect([width, sideways]).toEqual([width, 0]);
  }
  await page.setViewportSize({ width: 360, height: 800 });
}

/** The demo's renewal, opened by a link for somebody whom the CRM knows. */
async function renewal(page: Page): Promise<{ id: string; link: string; person: Record<string, string> }> {
  const { intakes } = (await (await page.request.get(`${address()}/api/intakes`)).json()) as {
    intakes: { id: string; key: string }[];
  };
  const { id } = intakes.find(({ key }) => key === 'membership-renewal')!;
  const headers = { Authorization: 'Bearer demo-integration' };
  const people = await page.request.get(
    `${standins()}/crm/odata/People?$filter=email ne null and city ne null&$top=40&$orderby=email`,
    { headers },
  );
  const { value } = (await people.json()) as { value: Record<string, string>[] };
  const person = value[Math.floor(Math.random() * value.length)]!;
  const made = await page.request.post(`${address()}/api/intakes/${id}/links`, {
    data: { record: person['id'], days: 3, once: false },
  });
  const link = new URL(((await made.json()) as { address: string }).address);
  return { id, link: `${address()}${link.pathname}${link.search}`, person };
}

/** Goes on by Tab to what is called so, and no farther than a page's controls go. */
async function tabTo(page: Page, name: RegExp): Promise<void> {
  for (let steps = 0; steps < 80; steps += 1) {
    await page.keyboard.press('Tab');
    const here = await page.evaluate(
      `(() => { const e = document.activeElement; const l = e?.labels?.[0]; return (e?.closest('fieldset')?.querySelector('legend')?.textContent ?? '') + ' ' + (l?.textContent ?? e?.textContent ?? ''); })()`,
    );
    if (name.test(String(here).trim())) return;
  }
  throw new Error(`Nothing called ${name} was come to.`);
}

test('a renewal is filled in, refused once and paid by keyboard alone at 360 pixels, and its path says so', async ({
  app,
  browser,
}) => {
  const { id, link, person } = await renewal(app);
  const context = await browser.newContext({ viewport: { width: 360, height: 800 } });
  const page = await context.newPage();
  await page.goto(link);
  await expect(page.getByText('Test mode')).toBeVisible();
  await clean(page);
  await tabTo(page, /^Kind of member.*Beekeeper$/);
  await page.keyboard.press('Space');
  await tabTo(page, /For how many years/);
  await page.keyboard.type('3');
  await expect(page.locator('[data-fee]')).toHaveText('€120.00');
  // Nobody answers in less time than the form gives at least.
  await page.waitForTimeout(2_000);
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/pay\?/);
  await expect(page.getByText('€120.00')).toBeVisible();
  await clean(page);
  await tabTo(page, /Go on to pay/);
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/pay\/ps_/);
  await clean(page);
  await tabTo(page, /Card number/);
  await page.keyboard.type('0000 2222 0000 2222');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('not enough money');
  await tabTo(page, /Card number/);
  await page.keyboard.type('0000 1111 0000 1111');
  await page.keyboard.press('Enter');
  const paper = page.getByRole('link', { name: 'What you sent, as a PDF' });
  await expect(paper).toBeVisible({ timeout: 30_000 });
  await clean(page);
  const pdf = await page.request.get(new URL((await paper.getAttribute('href'))!, page.url()).toString());
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
  await context.close();

  // Paid, the person updated and not doubled, the order made; who and what.
  await app.goto(`${address()}/intakes/${id}/history`);
  const path = app.getByRole('article');
  await expect(path.getByText('€120.00')).toBeVisible();
  await expect(path.getByText('was paid', { exact: true })).toBeVisible();
  await expect(path.getByText('test mode, no money is moved')).toBeVisible();
  await expect(path.getByRole('link', { name: new RegExp(`${person['id']} in Co-op CRM`) })).toBeVisible();
  await expect(path.getByRole('link', { name: /^R-\d+ in Co-op CRM/ })).toBeVisible();
  await expect(path.getByRole('link', { name: 'as PDF' })).toBeVisible();
  const headers = { Authorization: 'Bearer demo-integration' };
  const orders = await app.request.get(
    `${standins()}/crm/odata/Orders?$filter=person_id eq '${person['id']}' and total eq 120`,
    { headers },
  );
  expect(((await orders.json()) as { value: object[] }).value).toHaveLength(1);
});

test('without a script it is sent and paid as well, with a card that asks for a code', async ({ app, browser }) => {
  const { link } = await renewal(app);
  const context = await browser.newContext({ viewport: { width: 360, height: 800 }, javaScriptEnabled: false });
  const page = await context.newPage();
  await page.goto(link);
  await page.getByRole('radio', { name: 'Friend' }).check();
  await page.getByLabel(/For how many years/).fill('1');
  await page.waitForTimeout(2_000);
  await page.getByRole('button', { name: 'Send' }).last().click();
  await expect(page.getByText('€25.00')).toBeVisible();
  await page.getByRole('link', { name: 'Go on to pay' }).click();
  await page.getByLabel('Card number').fill('0000 4444 0000 4444');
  await page.getByRole('button', { name: /^Pay/ }).click();
  await page.getByLabel(/^The code/).fill('424');
  await page.getByRole('button', { name: /^Pay/ }).click();
  await expect(page.getByRole('link', { name: 'What you sent, as a PDF' })).toBeVisible({ timeout: 30_000 });
  await context.close();
});

test('what a form costs is said where the form is made, and changed there', async ({ app: page }) => {
  const { id } = await renewal(page);
  await page.goto(`${address()}/intakes/${id}/arrive`);
  await page.getByRole('button', { name: 'What it costs' }).click();
  await expect(page.getByLabel('Price of Beekeeper')).toHaveValue('40.00');
  await page.getByLabel('Price of Beekeeper').fill('45');
  await page.getByRole('button', { name: 'One part more' }).click();
  await page.getByLabel('What it is for').last().fill('Postage');
  await page.getByLabel('Price', { exact: true }).fill('3,50');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'What it costs' })).toHaveText('Membership and 1 more');
  await expect
    .poll(async () => {
      const { intake } = (await (await page.request.get(`${address()}/api/intakes/${id}`)).json()) as {
        intake: { draft: { form: { fee: { charges: { minor?: number; prices?: { minor: number }[] }[] } } } };
      };
      return intake.draft.form.fee.charges.map(({ minor, prices }) => minor ?? prices!.map((price) => price.minor));
    })
    .toEqual([expect.arrayContaining([4500]), 350]);
  await page.getByRole('heading', { name: 'Ask for' }).click();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'What it costs' })).toBeVisible();
});
