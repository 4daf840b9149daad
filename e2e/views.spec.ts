import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { address, expect, signIn, standins, test } from './stage.ts';

const TAGS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];

/** @param rules only these; absent: all */
async function clean(page: Page, rules?: string[]): Promise<void> {
  await page.waitForLoadState('networkidle');
  // Rows repeat: those far down a long table would only tell the same again, at the price of minutes.
  const axe = new AxeBuilder({ page }).exclude('tbody > tr:nth-child(n + 8)').exclude('li:nth-child(n + 12)');
  const { violations } = await (rules ? axe.withRules(rules) : axe.withTags(TAGS)).analyze();
  expect(
    violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 160)).join(' | ')}`),
  ).toEqual([]);
}

const intakeId = async (page: Page, wanted = 'pollination-enquiry'): Promise<string> => {
  const { intakes } = (await (await page.request.get(`${address()}/api/intakes`)).json()) as {
    intakes: { id: string; key: string }[];
  };
  return intakes.find(({ key }) => key === wanted)!.id;
};

/** A pairing that nobody has started: it is looked at and writes nothing. */
async function draftPairing(page: Page, systems: { id: string; name: string }[]): Promise<string> {
  const system = (wanted: string): string => systems.find(({ name }) => name === wanted)!.id;
  const sides = {
    left: { system: system('Co-op Letters'), entity: 'subscribers' },
    right: { system: system('Co-op CRM'), entity: 'People' },
  };
  const proposed = await page.request.post(`${address()}/api/pairings/propose`, { data: sides });
  const { document } = (await proposed.json()) as { document: object };
  const made = await page.request.post(`${address()}/api/pairings`, { data: { document } });
  return ((await made.json()) as { id: string }).id;
}

/** A sheet of which an entity could be made, uploaded. */
async function aSheet(page: Page): Promise<string> {
  const rows = Array.from({ length: 12 }, (_, at) => `N${at};${at % 2 ? 'full' : 'empty'};n/a;${at}.4.2026`);
  const response = await page.request.post(`${address()}/api/files?name=nests.csv`, {
    headers: { 'Content-Type': 'application/octet-stream' },
    data: Buffer.from(`Number;State;Weight;Seen\n${rows.join('\n')}`),
  });
  return ((await response.json()) as { file: { id: string } }).file.id;
}

for (const scheme of ['light', 'dark'] as const) {
  test(`axe finds nothing on any view, ${scheme}`, async ({ app: page }) => {
    test.slow();
    await page.emulateMedia({ colorScheme: scheme });
    const id = await intakeId(page);
    const season = await intakeId(page, 'season-enquiry');
    const { systems } = (await (await page.request.get(`${address()}/api/systems`)).json()) as {
      systems: { id: string; name: string }[];
    };
    const people = `system=${systems.find(({ name }) => name === 'Co-op CRM')!.id}&entity=People`;
    const pairing = await draftPairing(page, systems);
    // The dark theme has the same elements in other colours: those views that have all of them are enough.
    const dark = /^\/$|\?range|plan|rehearse|review|by=change|recognition|doubles|systems$|adapter$|pairings\/.{20}/;
    const views = [
      '/?range=30d',
      '/intakes',
      '/intakes/new',
      ...['arrive', 'plan', 'rehearse', 'open', 'history'].map((station) => `/intakes/${id}/${station}`),
      `/intakes/${season}/plan?step=contacts`,
      `/intakes/${season}/rehearse`,
      '/schema/new',
      '/schema/new?from=document',
      '/schema/changes',
      '/schema/field',
      `/schema/options?of=${systems.find(({ name }) => name === 'Co-op CRM')!.id}~People~interests&of=${systems.find(({ name }) => name === 'Co-op Letters')!.id}~subscribers~interests`,
      `/schema/new?system=${systems.find(({ name }) => name === 'Co-op CRM')!.id}&file=${await aSheet(page)}`,
      '/review',
      '/review?show=mend',
      '/ledger',
      '/ledger?by=change',
      '/pairings',
      '/pairings/new',
      `/pairings/${pairing}`,
      '/review/pairs',
      '/schema?entity=People',
      `/schema/recognition?${people}`,
      `/schema/doubles?${people}`,
      '/schema/two-files',
      '/systems',
      '/systems?connect=1',
      `/systems/${systems.find(({ name }) => name === 'Co-op Letters')!.id}/adapter`,
      '/people',
      '/set-password#first.nothing',
    ];
    for (const path of views.filter((each) => scheme === 'light' || dark.test(each))) {
      await test.step(path, async () => {
        await page.goto(address() + path);
        await clean(page, scheme === 'dark' ? ['color-contrast'] : undefined);
      });
    }
  });
}

test('axe finds nothing on the sign-in and the thank-you page', async ({ page }) => {
  await page.goto(`${address()}/sign-in`);
  await clean(page);
  await page.goto(`${address()}/in/pollination-enquiry/thank-you`);
  await clean(page);
});

test('an opened line, a popover and Find or do hold up as well', async ({ app: page }) => {
  await page.goto(`${address()}/intakes/${await intakeId(page)}/plan`);
  await page.locator('tr[data-field="phone"]').click();
  await clean(page);
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('A person, a record, a field, an intake, something to do').fill('mobile');
  await expect(page.getByText('Person, Co-op CRM')).toBeVisible();
  await clean(page);
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/schema/);
});

test('a sign-in that doesn’t fit is told so, and the page asked for comes after one that does', async ({ page }) => {
  await page.goto(`${address()}/ledger?by=change`);
  await expect(page).toHaveURL(/sign-in/);
  await page.getByLabel('E-mail address').fill('mara@cloverhollow.example');
  await page.getByLabel('Password').fill('wrong');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('E-mail address and password do not fit.')).toBeVisible();
  await page.getByLabel('Password').fill('clover-hollow');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page).toHaveURL(`${address()}/ledger?by=change`);
});

test('a viewer sees everything and is offered nothing to change', async ({ page }) => {
  await signIn(page, 'bozena@cloverhollow.example');
  await page.goto(`${address()}/intakes/${await intakeId(page)}/plan`);
  await expect(page.locator('tr[data-field="phone"]')).toBeVisible();
  await expect(page.getByRole('button', { name: /Publish/ })).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'When none is found' })).toBeDisabled();
  await page.goto(`${address()}/people`);
  await expect(page.getByText('An administrator can change your role.').first()).toBeVisible();
});

test('several that fit are decided by one key, and the next comes up', async ({ app: page }) => {
  const crm = (body: object) =>
    fetch(`${standins()}/crm/odata/People`, {
      method: 'POST',
      headers: { Authorization: 'Bearer demo-administrator', 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    });
  await crm({ last_name: 'Twin', first_name: 'One', email: 'twin@biene.example' });
  await crm({ last_name: 'Twin', first_name: 'Two', email: 'twin@biene.example' });
  await fetch(`${address()}/in/pollination-enquiry`, {
    method: 'POST',
    body: new URLSearchParams({
      contact_last: 'Twin',
      contact_first: 'Two',
      contact_email: 'twin@biene.example',
      contact_phone: '030 23125 222',
    }),
  });
  await page.getByRole('link', { name: /Review/ }).click();
  // Whatever else waits, of tests before: it is found.
  await page.getByRole('searchbox', { name: 'Search what waits' }).fill('twin');
  await page.getByRole('button', { name: /Two Twin/ }).click();
  await expect(page.getByRole('row', { name: /First name Two One Two/ })).toBeVisible();
  await page.keyboard.press('2');
  await expect(page.getByRole('button', { name: /Two Twin/ })).toHaveCount(0);
  await page.goto(`${address()}/ledger?text=twin@biene.example`);
  await expect(page.getByText('chosen in Review')).toBeVisible();
});

test('pasted HTML is neither run nor shown as such, and a page without a form is told so', async ({ app: page }) => {
  await page.goto(`${address()}/intakes/new`);
  await page.getByLabel('HTML of the page').fill('<p>nothing here</p>');
  await expect(page.getByText(/No form is on this page/)).toBeVisible();
  await page
    .getByLabel('HTML of the page')
    .fill(
      '<script>document.title = "run"</script><form name="x"><label><img src=x onerror="document.title=1"><b>Bold & <i>dangerous</i></b> <input name="<b>n</b>"></label></form>',
    );
  await expect(page.getByRole('row', { name: /Bold & dangerous/ })).toContainText('<b>n</b>');
  await expect(page).toHaveTitle('Zusammen');
});

test('works at 1024 pixels’ width without a sideways scroll', async ({ app: page }) => {
  await page.setViewportSize({ width: 1024, height: 768 });
  const id = await intakeId(page);
  const { systems } = (await (await page.request.get(`${address()}/api/systems`)).json()) as {
    systems: { id: string; name: string }[];
  };
  const crm = systems.find(({ name }) => name === 'Co-op CRM')!.id;
  for (const path of [
    '/',
    '/intakes',
    `/intakes/${id}/plan`,
    `/intakes/${id}/rehearse`,
    '/review',
    '/ledger',
    '/schema',
    `/schema/recognition?system=${crm}&entity=People`,
    `/schema/doubles?system=${crm}&entity=People`,
    '/systems',
  ]) {
    await page.goto(address() + path);
    await page.waitForLoadState('networkidle');
    expect(await page.evaluate('document.documentElement.scrollWidth'), path).toBeLessThanOrEqual(1024);
  }
});
