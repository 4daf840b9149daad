import type { Page } from '@playwright/test';
import { address, expect, pick, standins, test } from './stage.ts';

test.describe.configure({ mode: 'serial' });

const KEY = 'season-by-hand';
const addStep = async (page: Page, entity: string): Promise<void> => {
  await page.getByRole('button', { name: 'Add a step' }).click();
  await pick(page, 'Find an entity', entity);
};
const steps = (page: Page) => page.getByRole('region', { name: 'Steps' }).locator('button[data-step]');

/** Sends the form's fields as the page would. @returns the submission's id */
async function send(values: Record<string, string>): Promise<string> {
  const response = await fetch(`${address()}/in/${KEY}`, { method: 'POST', body: new URLSearchParams(values) });
  expect(response.status).toBe(202);
  return ((await response.json()) as { submission: string }).submission;
}

async function inCrm(path: string): Promise<Record<string, unknown>[]> {
  const response = await fetch(`${standins()}/crm/odata/${path}`, {
    headers: { Authorization: 'Bearer demo-administrator' },
  });
  return ((await response.json()) as { value: Record<string, unknown>[] }).value;
}
const people = (email: string) => inCrm(`People?$filter=${encodeURIComponent(`email eq '${email}'`)}`);

const orchard = (name: string, lastOfSecond: string): Record<string, string> => ({
  orchard: name,
  plz: '21635',
  town: 'Deichhausen',
  'contacts[0][first]': 'Wiebke',
  'contacts[0][last]': 'Quast',
  'contacts[0][email]': `wiebke@${name.toLowerCase()}.example`,
  'contacts[1][first]': 'Ivo',
  'contacts[1][last]': lastOfSecond,
  'contacts[1][email]': `ivo@${name.toLowerCase()}.example`,
  'contacts[2][first]': '',
  'contacts[2][last]': '',
  hives: '12',
  message: 'By the dyke',
});

test('a plan of four steps is built from a page: an orchard, its people, the main contact, the enquiry', async ({
  app: page,
}) => {
  await test.step('the first step suggests itself from the form', async () => {
    const html = await (await fetch(`${standins()}/site/season-enquiry`)).text();
    await page.goto(`${address()}/intakes/new`);
    await page.getByLabel('HTML of the page').fill(html);
    await page.getByLabel('Name', { exact: true }).fill('Season by hand');
    await page.getByLabel('Key in its address').fill(KEY);
    await page.getByRole('button', { name: 'Make this intake' }).click();
    await pick(page, 'Find an entity', 'organisation');
    await expect(page.locator('tr[data-field="name"]')).toContainText('Name of the orchard');
  });

  await test.step('people come once per row, with the orchard set; nothing is typed', async () => {
    await addStep(page, 'person');
    await expect(page.getByRole('button', { name: 'How often' })).toHaveText('for every row of contacts');
    await expect(page.locator('tr[data-field="organisation_id"]')).toContainText('the Organisation');
    await expect(page.getByRole('button', { name: 'Which record' })).toHaveText('E-mail');
    await expect(steps(page)).toHaveCount(2);
  });

  await test.step('the main contact is proposed, and comes back to the same orchard', async () => {
    const proposals = page.getByRole('list', { name: 'Links proposed' });
    await expect(proposals).toContainText('then Organisation’s main contact: the first Person');
    await proposals.getByRole('button', { name: 'link' }).first().click();
    await expect(steps(page)).toHaveCount(3);
    await expect(page.getByRole('button', { name: 'Which record' })).toHaveText('the one of Organisation');
    await expect(page.locator('tr[data-field="main_contact_id"]')).toContainText('the first Person');
  });

  await test.step('the enquiry is linked to the orchard', async () => {
    await addStep(page, 'enquiry');
    await expect(steps(page)).toHaveCount(4);
    await expect(page.locator('tr[data-field="organisation_id"]')).toContainText('the Organisation');
    // What no field of the form gives is written always the same.
    for (const [field, value] of [
      ['Subject', 'Bees for the season'],
      ['Kind', 'pollination'],
    ] as const) {
      const row = page.locator(`tr[data-field="${field.toLowerCase()}"]`);
      if ((await row.count()) > 0) {
        await row.getByRole('button', { name: /Edit the line/ }).click();
        await page.getByRole('button', { name: 'Remove' }).click();
      }
      await page.getByRole('button', { name: `Fill ${field}` }).click();
      await pick(page, `What fills ${field}?`, 'always same');
      const line = page.getByRole('group', { name: `Line to ${field}` });
      if (field === 'Kind') await line.getByRole('combobox').first().selectOption(value);
      else await line.getByPlaceholder('always this value').fill(value);
      await line.getByRole('button', { name: 'Done' }).click();
    }
  });

  await test.step('a step that is moved before what it refers to is stopped by a check, and moved back', async () => {
    await page.keyboard.press('2');
    await expect(steps(page).nth(1)).toHaveAttribute('aria-current', 'step');
    await page.keyboard.press('Alt+ArrowUp');
    await expect(page.getByText(/It refers to Organisation, which comes later/)).toBeVisible();
    await expect(page.getByRole('button', { name: /^Publish version/ })).toBeDisabled();
    await page.keyboard.press('Alt+ArrowDown');
    await expect(page.getByText(/which comes later/)).toHaveCount(0);
  });

  await test.step('a colleague reads it as text', async () => {
    await page.getByRole('button', { name: 'as text' }).click();
    const text = page.getByRole('dialog').locator('pre');
    await expect(text).toContainText('Once for every row of contacts.');
    await expect(text).toContainText('Main contact ← the first Person');
    await page.keyboard.press('Escape');
  });

  await test.step('published, one submission makes all of it, linked', async () => {
    await page.getByRole('button', { name: /^Publish version/ }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('button', { name: /^Publish/ }).click();
    await expect(page.getByText('Live, version 1')).toBeVisible();
    const id = await send(orchard('Quastenhof', 'Miodek'));
    await page.goto(`${address()}/ledger?submission=${id}`);
    await expect(page.getByRole('article').locator('header').first()).toContainText(/●\s*applied/);
    const [organisation] = await inCrm(`Organisations?$filter=${encodeURIComponent("name eq 'Quastenhof'")}`);
    const [wiebke] = await people('wiebke@quastenhof.example');
    const [ivo] = await people('ivo@quastenhof.example');
    expect(organisation).toMatchObject({ main_contact_id: wiebke!['id'] });
    expect(ivo).toMatchObject({ organisation_id: organisation!['id'], last_name: 'Miodek' });
    const enquiries = await inCrm(
      `Enquiries?$filter=${encodeURIComponent(`organisation_id eq '${String(organisation!['id'])}'`)}`,
    );
    expect(enquiries).toMatchObject([{ kind: 'pollination', hives_wanted: 12, message: 'By the dyke' }]);
  });
});

test('what was refused in the second row is put right in Review, and the rest goes on', async ({ app: page }) => {
  const id = await send(orchard('Miodekhof', ''));
  await page.goto(`${address()}/review?submission=${id}`);
  await expect(page.getByRole('button', { name: /Miodekhof/ })).toBeVisible();
  await expect(page.getByRole('heading', { name: /Family name is required/ })).toBeVisible();
  await expect(page.getByText('What earlier steps have written stays as it is.')).toBeVisible();
  await page.keyboard.press('e');
  await page.keyboard.type('Dąbek');
  await page.keyboard.press('Enter');
  // The next comes up, which may have been refused for the same.
  await expect(page.getByRole('button', { name: /Miodekhof/ })).toHaveCount(0);
  await page.goto(`${address()}/ledger?submission=${id}`);
  await expect(page.getByRole('article').locator('header').first()).toContainText(/●\s*applied/);
  expect(await people('ivo@miodekhof.example')).toMatchObject([{ last_name: 'Dąbek' }]);
  expect(await people('wiebke@miodekhof.example')).toHaveLength(1);
  expect(await inCrm(`Organisations?$filter=${encodeURIComponent("name eq 'Miodekhof'")}`)).toHaveLength(1);
});

test('a whole submission is taken back, the last change first, and says what it can’t', async ({ app: page }) => {
  const id = await send(orchard('Dabekhof', 'Dąbek'));
  await page.goto(`${address()}/ledger?submission=${id}`);
  await expect(page.getByRole('article').locator('header').first()).toContainText(/●\s*applied/);
  // Somebody works on one of the records meanwhile.
  const [ivo] = await people('ivo@dabekhof.example');
  await fetch(`${standins()}/crm/odata/People('${String(ivo!['id'])}')`, {
    method: 'PATCH',
    headers: { Authorization: 'Bearer demo-administrator', 'Content-Type': 'application/json' },
    body: JSON.stringify({ notes: 'called him' }),
  });
  await page.getByRole('button', { name: 'Take back', exact: true }).first().click();
  await expect(page.getByText(/changed since it was created; deleting it would lose that/)).toBeVisible();
  expect(await people('wiebke@dabekhof.example')).toEqual([]);
  expect(await people('ivo@dabekhof.example')).toMatchObject([{ notes: 'called him' }]);
});
