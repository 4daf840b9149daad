import { apiaryCards, peopleOf } from '../scripts/demo-cards.ts';
import type { Page } from '@playwright/test';
import { address, expect, standins, test } from './stage.ts';

/** Drops a file on a page, as a hand does. */
async function drop(page: Page, on: string, file: Buffer, name: string): Promise<void> {
  const bytes = file.toString('base64');
  // Said as a text: what a page has of files isn't known here.
  const transfer = await page.evaluateHandle(`(() => {
    const data = new DataTransfer();
    const bytes = Uint8Array.from(atob('${bytes}'), (sign) => sign.charCodeAt(0));
    data.items.add(new File([bytes], '${name}'));
    return data;
  })()`);
  await page.locator(on).dispatchEvent('drop', { dataTransfer: transfer });
}

const crm = async (path: string): Promise<{ value: Record<string, unknown>[]; error?: unknown }> =>
  (await (
    await fetch(`${standins()}/crm/odata/${path}`, { headers: { Authorization: 'Bearer demo-administrator' } })
  ).json()) as never;

test('a spreadsheet becomes an entity: gone through, made, its rows in, all taken back and done again', async ({
  app: page,
}) => {
  test.slow();
  await page.goto(`${address()}/schema`);
  await expect(page.getByRole('link', { name: 'New entity' })).toBeVisible();
  // The same cards as the demo's, with keepers whom this CRM knows.
  const cards = await apiaryCards(await peopleOf(`${standins()}/crm/odata/`));
  await drop(page, 'h1', cards, 'apiaries.xlsx');
  await expect(page.getByRole('heading', { name: 'A new entity from apiaries.xlsx' })).toBeVisible();

  // The evidence stands beside each column; real rows are paged through.
  const row = (column: string) =>
    page.locator('tr', { has: page.getByRole('button', { name: `What ${column} becomes` }) });
  await expect(row('Reg. no.')).toContainText('no two alike, none blank');
  await expect(row('First seen')).toContainText('219 can only be day first');
  await expect(row('Last insp.')).toContainText('17 fill it with n/a: left blank');
  await expect(row('Office')).toContainText('blank in every row');
  await page.keyboard.press('ArrowRight');
  await expect(row('Reg. no.')).toContainText('HB-0002');

  // Two near-alike options are joined, a column is left out, the keeper becomes a reference.
  await row('Status').getByRole('button', { name: 'join', exact: true }).click();
  await expect(row('Status')).toContainText('option, 4');
  await row('Notes').getByRole('button', { name: 'What Notes becomes' }).click();
  await page.getByRole('option', { name: 'left out' }).click();
  await row('Keeper').getByRole('button', { name: 'make it a reference' }).click({ timeout: 60_000 });
  await expect(row('Keeper')).toContainText(' unsure, ', { timeout: 30_000 });
  const unsure = Number(/, (\d{1,4}) unsure/.exec(await row('Keeper').innerText())![1]);
  expect(unsure).toBeGreaterThan(0);
  await expect(page.getByText('Can’t be changed once it is made')).toBeVisible();
  // It is a draft until it is made: leaving the page loses nothing.
  await page.reload();
  await expect(row('Notes')).toContainText('left out');

  const allIn = (): Promise<void> => expect(page.getByText('412 of 412 carried out')).toBeVisible({ timeout: 90_000 });
  await page.getByRole('button', { name: 'Make Apiary and take in 412 rows' }).click();
  await allIn();
  await expect(page.getByRole('link', { name: `${unsure} to decide in Review` })).toBeVisible();
  const { value } = await crm("Apiaries?$filter=reg_no eq 'HB-0001'");
  expect(value[0]).toMatchObject({ reg_no: 'HB-0001', keeper_id: expect.stringMatching(/^P-/) });
  expect(value[0]).not.toHaveProperty('notes');

  // All of it is taken back, the records first, then the entity; and done again as it was.
  await page.getByRole('button', { name: 'Take all back' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Take all back' }).click();
  await expect(page.getByRole('button', { name: 'Do it again' })).toBeVisible({ timeout: 90_000 });
  expect((await crm('Apiaries')).error).toBeDefined();
  await page.getByRole('button', { name: 'Do it again' }).click();
  await allIn();

  // What was unsure waits in Review.
  await page.getByRole('link', { name: `${unsure} to decide in Review` }).click({ timeout: 30_000 });
  await expect(page).toHaveURL(/review\?intake=/);
  await expect(page.getByText(/records fit/).first()).toBeVisible();
});

test('a definition document makes an entity; a wrong one is refused with its path; the same is compared', async ({
  app: page,
}) => {
  const field = (name: string, more: object = {}) => ({ name, label: name, type: 'text', ...more });
  const document = {
    format: 1,
    entities: [
      {
        ...{ name: 'Extractor', label: 'Extractor', plural: 'Extractors', namedBy: 'serial' },
        fields: [
          field('serial', { unique: true, required: true, maxLength: 20 }),
          field('lent_to', { label: 'Lent to', type: 'reference', relation: 'Person' }),
          field('stands_at', { label: 'Stands at', type: 'reference', relation: 'Organisation' }),
          field('frames', { type: 'integer' }),
        ],
      },
    ],
  };
  await page.goto(`${address()}/schema/new?from=document`);
  const text = page.getByLabel('A definition document, or a JSON Schema of an object');
  const wrong = structuredClone(document);
  wrong.entities[0]!.fields[3]!.type = 'shape';
  await text.fill(JSON.stringify(wrong));
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(page.getByRole('alert')).toContainText('entities.0.fields.3.type');
  await text.fill(JSON.stringify(document));
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(page.getByText('new in Co-op CRM')).toBeVisible();
  await expect(page.getByText('that serial is unique')).toBeVisible();
  await page.getByRole('button', { name: 'Make Extractor' }).click();
  await expect(page.getByText('Make Extractor with 4 fields.')).toBeVisible();
  await page.getByRole('link', { name: /Look at Extractor/ }).click();
  await expect(page.getByRole('row', { name: /Lent to lent_to_id → People/ })).toBeVisible();

  // As another system tells it, with an option more and a field that isn't there.
  document.entities[0]!.fields.push(field('colour', { type: 'option', options: [{ value: 'red', label: 'Red' }] }));
  await page.goto(`${address()}/schema/new?from=document`);
  await text.fill(JSON.stringify(document));
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(page.getByText('is there already')).toBeVisible();
  await expect(page.getByRole('link', { name: '4 of 5 fields the same' })).toBeVisible();
  await expect(page.getByText('✕ missing')).toBeVisible();
});

/** How many records of a set hold an option. */
async function holding(set: string, field: string, option: string): Promise<number> {
  const { value } = await crm(`${set}?$top=1000`);
  return value.filter((each) => (each[field] as string[] | null)?.includes(option)).length;
}

/** Fifty kinds of housing, as a column is copied out of a spreadsheet; three of them are known. */
const HOUSINGS = ['Frame hive', 'Top-bar', 'Log hive', ...Array.from({ length: 47 }, (_, at) => `Kind ${at + 1}`)];

test('one field is made in four entities with its lines; one left out is told by a check, and all is taken back', async ({
  app: page,
}) => {
  test.slow();
  await page.goto(`${address()}/schema`);
  await page.getByRole('link', { name: 'New field' }).click();
  await page.getByLabel('What the field is called').fill('Housing');
  await page.getByRole('button', { name: 'What kind of field it is' }).click();
  await page.getByRole('option', { name: 'several options', exact: true }).click();
  await page.getByRole('button', { name: 'Paste a list of options' }).click();
  await page.getByLabel('Options, one on each line').fill(`${HOUSINGS.join('\r\n')}\r\nTop-bar\r\n`);
  await expect(page.getByText('50 options; 1 option came twice and counts once')).toBeVisible();
  await page.getByRole('button', { name: 'Take them' }).click();
  await page.getByRole('button', { name: 'How it is explained' }).click();
  await page.getByLabel('What it is for').fill('What their bees live in');
  await page.keyboard.press('Escape');

  const has = (entity: string, system = 'Co-op CRM') => page.getByLabel(`${entity} in ${system} has it`);
  // What is there under another name is recognised, and comes first.
  await expect(has('Contract')).toBeVisible();
  await page.getByRole('button', { name: /more entities/ }).click();
  for (const entity of ['Enquiry', 'Person', 'Contract']) await has(entity).check();
  // It was asked for from there, and isn't needed there.
  await has('Organisation').uncheck();
  await has('Subscriber', 'Co-op Letters').check();
  const row = (entity: string) => page.getByRole('row').filter({ has: has(entity) });
  await expect(row('Contract')).toContainText('Hive housing');
  await expect(row('Contract')).toContainText('“Top bar” is not “Top-bar”');
  await expect(row('Contract')).toContainText(/\d of \d/);
  await expect(row('Person')).toContainText('when it is converted');
  // What is typed is kept: leaving the page loses nothing.
  await page.reload();
  await expect(has('Subscriber', 'Co-op Letters')).toBeChecked();

  await page.getByRole('button', { name: 'Rehearse on 50 of each' }).click();
  await expect(page.getByText(/tried would get Housing/).first()).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText('nothing was made or written')).toBeVisible();
  const left = page.getByLabel('From enquiry to contract carries it to Person');
  await left.uncheck();
  await page.getByRole('button', { name: /^Make 3 fields, mend 1 field and draw/ }).click();
  await expect(page.getByRole('heading', { name: 'Housing, in 4 places' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Take all back' })).toBeVisible({ timeout: 90_000 });
  await expect(page.getByText(/records? changed/)).toBeVisible();
  expect(await holding('Contracts', 'hive_housing', 'Top bar')).toBe(0);
  expect(await holding('Contracts', 'hive_housing', 'Top-bar')).toBeGreaterThan(0);

  // The line that was left out is named where it would stand, with the line that mends it.
  await page.getByRole('link', { name: 'Look at its lines in From enquiry to contract' }).click();
  await expect(page.getByText(/Housing is one field in Enquiry and Person/).first()).toBeVisible({ timeout: 30_000 });

  await page.goto(`${address()}/schema/changes`);
  await page
    .getByRole('link', { name: /Housing, in 4 places/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Take all back' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Take all back' }).click();
  await expect(page.getByRole('button', { name: /Go on with it|Do it again/ })).toBeVisible({ timeout: 90_000 });
  await expect(page.getByText('It stays there: nothing can be taken away from here.')).toBeVisible();
  expect((await crm('Enquiries?$select=housing&$top=1')).error).toBeDefined();
});

test('options are compared over both systems: a spelling and a missing one are mended, two are joined', async ({
  app: page,
}) => {
  test.slow();
  await page.goto(`${address()}/schema`);
  await page.getByRole('button', { name: 'Person' }).first().click();
  await page.getByRole('link', { name: 'Compare the options of Interests' }).click();
  await page.getByRole('button', { name: 'Compare with another field' }).click();
  await page.getByLabel('A field with options').fill('subscriber');
  await page.getByRole('option', { name: 'Subscriber · Interests' }).click();
  const row = (option: string) =>
    page.getByRole('row').filter({ has: page.getByRole('button', { name: `Rename or join ${option}`, exact: true }) });
  // How many records hold each stands beside it.
  await expect(row('hiring hives')).toContainText(/● the same ?\d/);
  await expect(row('Honey')).toContainText(/the same as “honey” ?\d/);
  // A list as it should be shows what both lack.
  await page.getByRole('button', { name: 'Paste a list' }).click();
  await page.getByLabel('The list, one option on each line').fill('Mead making');
  await page.getByRole('button', { name: 'Compare with them' }).click();
  await expect(row('Mead making')).toContainText('missing');
  await page.getByRole('button', { name: 'Add Mead making to Interests of Subscriber' }).click();
  await page.getByRole('button', { name: 'Rename or join hiring hives' }).click();
  await page.getByRole('option', { name: 'Pollination' }).click();
  // What it comes to is said before anything is changed.
  await expect(page.getByText(/“hiring hives” becomes “Pollination” in Interests of Subscriber/)).toBeVisible();
  await page.getByRole('button', { name: 'Make 2 changes' }).click();
  await expect(page.getByRole('button', { name: 'Take all back' })).toBeVisible({ timeout: 120_000 });
  await expect(page.getByText('records changed')).toBeVisible();

  // Two are joined, and the records that held the one hold the other.
  const quinces = await holding('Enquiries', 'crops', 'quince');
  expect(quinces).toBeGreaterThan(0);
  await page.goto(`${address()}/schema`);
  await page.getByRole('button', { name: 'Enquiry' }).first().click();
  await page.getByRole('link', { name: 'Compare the options of Crops' }).click();
  await page.getByRole('button', { name: 'Rename or join Quince', exact: true }).click();
  await page.getByRole('option', { name: 'Pear', exact: true }).click();
  await expect(row('Quince')).toContainText('→ Pear');
  await page.getByRole('button', { name: 'Make 1 change' }).click();
  await expect(page.getByRole('button', { name: 'Take all back' })).toBeVisible({ timeout: 120_000 });
  expect(await holding('Enquiries', 'crops', 'quince')).toBe(0);
  await page.getByRole('button', { name: 'Take all back' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Take all back' }).click();
  await expect(page.getByRole('button', { name: 'Do it again' })).toBeVisible({ timeout: 120_000 });
  expect(await holding('Enquiries', 'crops', 'quince')).toBe(quinces);
});

const renamed = async (path: string, name: string): Promise<void> => {
  const response = await fetch(`${standins()}/crm/schema/${path}`, {
    method: 'PATCH',
    headers: { Authorization: 'Bearer demo-administrator', 'Content-Type': 'application/json' },
    body: JSON.stringify({ name }),
  });
  expect(response.status).toBe(204);
};

/** An intake of three fields that goes by nothing that other tests change. */
async function writesPhones(page: Page): Promise<void> {
  const { systems } = (await (await page.request.get(`${address()}/api/systems`)).json()) as {
    systems: { id: string; name: string }[];
  };
  const system = systems.find(({ name }) => name === 'Co-op CRM')!.id;
  const names = [
    ['last', 'last_name', 'text'],
    ['mail', 'email', 'email'],
    ['tel', 'phone', 'phone'],
  ] as const;
  const line = ([from, field]: (typeof names)[number]) => ({
    ...{ id: from, from: [from], field, ifBoth: 'write', blankErases: false, origin: 'set' },
    treatments: from === 'tel' ? [{ kind: 'phone', country: 'DE' }] : [],
  });
  const step = {
    ...{ id: 'person', system, entity: 'People', recognise: [{ fields: ['email'] }], lines: names.map(line) },
    ...{ whenNone: 'create', whenOne: 'update', whenSeveral: 'ask' },
  };
  const document = {
    ...{ format: 1, name: 'Telephone numbers', source: { kind: 'program' }, settings: { perMinute: 60 } },
    fields: names.map(([name, , type]) => ({ name, label: name, type, required: false })),
    plan: { steps: [step] },
  };
  const made = await page.request.post(`${address()}/api/intakes`, { data: { key: 'renamed-phone', document } });
  const { intake } = (await made.json()) as { intake: { id: string } };
  const published = await page.request.post(`${address()}/api/intakes/${intake.id}/publish`, {
    data: { revision: 1, accept: true },
  });
  expect(published.status()).toBe(200);
}

/** Reads the CRM's schema in the interface, and has everything go by the new name that is seen there. */
async function mendRenames(page: Page): Promise<void> {
  await page.goto(`${address()}/systems`);
  await page.getByRole('row', { name: /Co-op CRM/ }).click();
  await page.getByRole('button', { name: 'Read its schema again' }).click();
  await page.getByRole('button', { name: 'Have all of them go by the new name' }).click();
  await expect(page).toHaveURL(/schema\/changes/);
  await expect(page.getByRole('button', { name: 'Take all back' })).toBeVisible({ timeout: 60_000 });
}

test('the reach of a field is asked for; a renamed one is recognised, mended everywhere, and what waited is carried out', async ({
  app: page,
}) => {
  test.slow();
  await page.goto(`${address()}/schema`);
  await page.getByRole('button', { name: 'Person' }).first().click();
  await page.getByRole('button', { name: 'Reach of Phone' }).click();
  await expect(page.getByRole('dialog').getByRole('link').first()).toBeVisible();
  await page.keyboard.press('Escape');

  await writesPhones(page);
  await renamed('Person/phone', 'telephone');
  await page.goto(`${address()}/systems`);
  await page.getByRole('row', { name: /Co-op CRM/ }).click();
  await page.getByRole('button', { name: 'Read its schema again' }).click();
  await expect(page.getByText(/places go by old names/)).toBeVisible({ timeout: 60_000 });
  await fetch(`${address()}/in/renamed-phone`, {
    method: 'POST',
    body: new URLSearchParams({ last: 'Reetz', mail: 'jule.reetz@biene.example', tel: '030 23125 333' }),
  });
  // It waits rather than fails.
  const waits = async (): Promise<string> => {
    const { submissions } = (await (await page.request.get(`${address()}/api/submissions?text=reetz`)).json()) as {
      submissions: { id: string; state: string }[];
    };
    return submissions[0]?.state ?? 'unheard of';
  };
  await page.waitForTimeout(1_500);
  expect(await waits()).toBe('received');
  await mendRenames(page);
  const person = async (): Promise<unknown> =>
    (await crm("People?$filter=email eq 'jule.reetz@biene.example'")).value?.[0]?.['telephone'];
  await expect.poll(person, { timeout: 60_000 }).toBe('+493023125333');

  // As it was, for whoever comes after.
  await renamed('Person/telephone', 'phone');
  await mendRenames(page);
});
