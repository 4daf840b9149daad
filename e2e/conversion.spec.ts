import type { Locator, Page } from '@playwright/test';
import { address, expect, pick, signInToCrm, standins, test } from './stage.ts';

/** Records become others: tried on what is there, by hand on their page, many by a condition, and by themselves. */
test.describe.configure({ mode: 'serial' });

/** Once more, it is about others. */
const HOF = `Hof Umwandel ${crypto.randomUUID().slice(0, 4)}`;
type Row = Record<string, unknown>;
async function crm(path: string, data?: object, method = 'POST'): Promise<Row> {
  const response = await fetch(`${standins()}/crm/odata/${path}`, {
    method: data ? method : 'GET',
    headers: { Authorization: 'Bearer demo-administrator', 'Content-Type': 'application/json' },
    ...(data ? { body: JSON.stringify(data) } : {}),
  });
  const text = await response.text();
  if (!response.ok) throw new Error(text);
  return text ? (JSON.parse(text) as Row) : {};
}
const enquiry = (at: number, more: object = {}): Promise<Row> =>
  crm('Enquiries', {
    ...{ subject: `Bees for orchard ${at}`, kind: 'pollination', status: 'open', source: HOF },
    ...{ hives_wanted: at + 1, crops: at % 2 ? ['currant', 'apple'] : ['pear'] },
    ...{
      caller_company: `${HOF} ${at}`,
      caller_name: `Kathi Umwandel${at}`,
      caller_email: `k${at}.${HOF.slice(-4)}@umwandel.example`,
    },
    ...more,
  });
const addStep = async (page: Page, entity: string): Promise<void> => {
  await page.getByRole('button', { name: 'Add a step' }).click();
  await pick(page, 'Find an entity', entity);
};
const row = (page: Page, field: string): Locator => page.locator(`tr[data-field="${field}"]`);
async function fill(page: Page, field: string, name: string, from: string): Promise<void> {
  const empty = page
    .getByRole('button', { name: `Fill ${field}`, exact: true })
    .or(page.getByRole('button', { name: `Fill ${field} needed`, exact: true }));
  await expect(row(page, name).or(empty)).toBeVisible();
  if ((await row(page, name).count()) > 0) {
    await row(page, name)
      .getByRole('button', { name: /Edit the line/ })
      .click();
    const line = page.getByRole('group', { name: `Line to ${field}` });
    await line.getByRole('button', { name: 'Remove' }).click();
  }
  await empty.click();
  await pick(page, `What fills ${field}?`, from);
  await expect(row(page, name)).toContainText(from);
}
const recognisedBy = async (page: Page, field: string): Promise<void> => {
  const which = page.getByRole('button', { name: 'Which record' });
  if ((await which.innerText()) === field) return;
  await which.click();
  const others = page.getByRole('button', { name: 'remove', exact: true });
  while ((await others.count()) > 0) await others.first().click();
  await pick(page, 'Find a field that a line fills, or another way', field);
  await expect(which).toHaveText(field);
};

let made: Row[] = [];
/** Where the conversion is opened, once it is made. */
let opened = '';
test.beforeAll(async () => {
  made = await Promise.all(Array.from({ length: 60 }, (_, at) => enquiry(at)));
});

test('a conversion is built, tried on 50 records, and what would be lost is mended', async ({ app: page }) => {
  await page.goto(`${address()}/intakes/new`);
  await page.getByRole('radio', { name: 'records of a system' }).click();
  await page.getByPlaceholder('Find an entity').fill('Enquiry');
  await page
    .getByRole('option', { name: /^Enquiry/ })
    .first()
    .click();
  await page.getByLabel('Name', { exact: true }).fill('Enquiry becomes a customer');
  await page.getByRole('button', { name: 'Make this intake' }).click();
  await expect(page.getByText('50 samples')).toBeVisible();

  await pick(page, 'Find an entity', 'organisation');
  await fill(page, 'Name', 'name', 'Caller’s company');
  await recognisedBy(page, 'Name');
  await addStep(page, 'person');
  await fill(page, 'Family name', 'last_name', 'Caller');
  await fill(page, 'E-mail', 'email', 'Caller’s e-mail');
  await recognisedBy(page, 'E-mail');
  await addStep(page, 'contract');
  await fill(page, 'Contract number', 'number', 'Enquiry, its id');
  await fill(page, 'Hives', 'hives', 'Hives wanted');
  await fill(page, 'Crops', 'crops', 'Crops');
  await addStep(page, 'enquiry');
  await expect(page.getByRole('button', { name: 'Which record' })).toHaveText('named by Enquiry, its id');
  await page.getByRole('button', { name: 'Fill Status' }).click();
  await pick(page, 'What fills Status?', 'always same');
  await page.getByRole('group', { name: 'Line to Status' }).getByRole('combobox').first().selectOption('won');
  await page.getByRole('group', { name: 'Line to Status' }).getByRole('button', { name: 'Done' }).click();

  // An option that is spelt otherwise over there would be lost, which is said before anything is written.
  await expect(page.getByText('Crops: “Currant” has no counterpart in the list.')).toBeVisible();
  await page.keyboard.press('3');
  await row(page, 'crops')
    .getByRole('button', { name: /Edit the line/ })
    .click();
  await page.getByRole('button', { name: /^Settings of options/ }).click();
  await page.getByLabel('Currant becomes').selectOption('blackcurrant');
  await page.keyboard.press('Escape');
  await page.getByRole('group', { name: 'Line to Crops' }).getByRole('button', { name: 'Done' }).click();
  await expect(page.getByText('“Currant” has no counterpart')).toHaveCount(0);
  await page.getByRole('link', { name: /^Rehearse/ }).click();
  await expect(page.getByRole('link', { name: /^Rehearse/ })).toContainText(/[1-9]\d? of 50 samples come out well/);

  // It is shown on the enquiries' own pages, and published.
  await page.getByRole('link', { name: /^Open/ }).click();
  await page.getByLabel('On the Enquiry’s own page').check();
  await page.getByLabel('Pages of these origins may show the form').fill(standins());
  await page.getByLabel('Pages of these origins may show the form').blur();
  await expect(page.getByRole('button', { name: /^Publish version 1/ })).toBeEnabled();
  await page.getByRole('button', { name: /^Publish version 1/ }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: /^Publish/ }).click();
  await expect(page.getByText('Live, version 1')).toBeVisible();
  await expect(page.getByRole('link', { name: /^Open/ })).toContainText('converts records');
  opened = page.url();
});

const open = async (page: Page): Promise<void> => {
  await page.goto(opened);
  await expect(page.getByRole('heading', { name: 'Many at once' })).toBeVisible();
};

test('one is converted on its own page, as whoever is signed in there', async ({ app: page, browser }) => {
  await open(page);
  const line = await page.locator('code', { hasText: 'data-panel' }).innerText();
  const at = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const other = await at.newPage();
  await signInToCrm(other, 'keeper', '/crm/panels');
  await other.goto(`${standins()}/crm/panels`);
  await other.getByLabel('Panel on Enquiry pages').fill(line);
  await other.getByRole('button', { name: 'Keep the panel of Enquiries' }).click();
  const { id } = made[0]!;
  await other.goto(`${standins()}/crm/Enquiries/${String(id)}`);
  const panel = other.getByRole('region', { name: 'Panel' }).frameLocator('iframe');
  await expect(panel.getByText('You act here as Karla Winter.')).toBeVisible();
  await expect(panel.getByText('This would come of it:')).toBeVisible();
  await expect(panel.getByText(`${HOF} 0`).first()).toBeVisible();
  await panel.getByRole('button', { name: 'Convert' }).click();
  await expect(panel.getByText('This came of it:')).toBeVisible();
  const now = await crm(`Enquiries('${String(id)}')`);
  expect(now['status']).toBe('won');
  const contracts = (await crm(`Contracts?$filter=number eq '${String(id)}'`))['value'] as Row[];
  expect(contracts).toMatchObject([{ organisation_id: now['organisation_id'], created_by: 'Karla Winter' }]);
  await at.close();
});

test('forty are converted by a condition, the links lead to all that was made, and one is taken back', async ({
  app: page,
}) => {
  await open(page);
  const many = page.locator('section', { has: page.getByRole('heading', { name: 'Many at once' }) });
  await many.getByRole('button', { name: 'Add a comparison' }).click();
  await many.getByLabel('Field').selectOption('source');
  await many.getByLabel('Value').fill(HOF);
  await many.getByRole('button', { name: 'Count them' }).click();
  await expect(many.getByText('60 records meet it; the first of them:')).toBeVisible();
  // Ten of them shall wait.
  for (const each of made.slice(1, 20)) await crm(`Enquiries('${String(each['id'])}')`, { status: 'lost' }, 'PATCH');
  await many.getByRole('button', { name: 'Add a comparison' }).click();
  await many.getByLabel('Field').nth(1).selectOption('status');
  await many.getByLabel('Value').nth(1).selectOption('open');
  await many.getByRole('button', { name: 'Count them' }).click();
  await expect(many.getByText('40 records meet it; the first of them:')).toBeVisible();
  await many.getByRole('button', { name: 'Convert the 40' }).click();
  const report = many.getByRole('list', { name: 'Conversions of many, newest first' }).getByRole('listitem').first();
  await expect(report).toContainText('40 of 40');
  await expect(report).toContainText('done');
  await expect(report).toContainText('40 converted');

  // Each leads to all that was made of it; one is taken back.
  await report.getByRole('link', { name: '40 converted' }).click();
  const last = made.at(-1)!;
  await page.getByRole('button', { name: new RegExp(`^${HOF} 59`) }).click();
  const told = page.getByRole('article');
  await expect(told.getByRole('link', { name: new RegExp(`${String(last['id'])} in Co-op CRM`) })).toBeVisible();
  const [contract] = (await crm(`Contracts?$filter=number eq '${String(last['id'])}'`))['value'] as Row[];
  expect(contract!['crops']).toEqual(['blackcurrant', 'apple']);
  await expect(told.getByRole('link', { name: `${String(contract!['id'])} in Co-op CRM` })).toHaveAttribute(
    'href',
    `${standins()}/crm/Contracts/${String(contract!['id'])}`,
  );
  await told.getByRole('button', { name: 'Take back', exact: true }).first().click();
  await expect(told.getByText('taken back').first()).toBeVisible();
  expect(await crm(`Enquiries('${String(last['id'])}')`)).toMatchObject({ status: 'open', organisation_id: null });
  expect((await crm(`Contracts?$filter=number eq '${String(last['id'])}'`))['value']).toEqual([]);
});

test('those whose state becomes agreed convert by themselves; those that had it before don’t', async ({
  app: page,
}) => {
  const [before, becomes] = [made[1]!, made[2]!].map(({ id }) => String(id)) as [string, string];
  await crm(`Enquiries('${before}')`, { status: 'agreed' }, 'PATCH');
  test.slow();
  await open(page);
  const itself = page.locator('section', { has: page.getByRole('heading', { name: 'By itself' }) });
  await itself.getByRole('button', { name: 'Add a comparison' }).click();
  await itself.getByLabel('Field').selectOption('status');
  await itself.getByLabel('Value').selectOption('agreed');
  await itself.getByRole('button', { name: 'Add a comparison' }).click();
  await itself.getByLabel('Field').nth(1).selectOption('source');
  await itself.getByLabel('Value').nth(1).fill(HOF);
  await page.getByRole('button', { name: /^Publish version 2/ }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Publish/ })
    .click();
  await expect(page.getByText('Live, version 2')).toBeVisible();
  // What meets it at the first look is left alone: one that came too early for that is set back, and becomes it again.
  await expect
    .poll(
      async () => {
        const status = (await crm(`Enquiries('${becomes}')`))['status'];
        if (status !== 'won')
          await crm(`Enquiries('${becomes}')`, { status: status === 'agreed' ? 'lost' : 'agreed' }, 'PATCH');
        return status;
      },
      { timeout: 90_000, intervals: [6_000] },
    )
    .toBe('won');
  expect((await crm(`Enquiries('${before}')`))['status']).toBe('agreed');
  await page.getByRole('link', { name: /^History/ }).click();
  await expect(page.getByRole('button', { name: `${HOF} 2`, exact: true })).toBeVisible();
});
