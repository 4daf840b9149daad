import type { Page } from '@playwright/test';
import { address, expect, pick, standins, test } from './stage.ts';

const crm = async (path: string, init: RequestInit = {}): Promise<Record<string, never>> => {
  const headers = { Authorization: 'Bearer demo-administrator', 'Content-Type': 'application/json' };
  const response = await fetch(`${standins()}/crm/odata/${path}`, { ...init, headers });
  return (await response.json()) as Record<string, never>;
};
const enter = async (person: object): Promise<string> =>
  (await crm('People', { method: 'POST', body: JSON.stringify(person) }))['id']!;

const system = async (page: Page): Promise<string> => {
  const { systems } = (await (await page.request.get(`${address()}/api/systems`)).json()) as {
    systems: { id: string; name: string }[];
  };
  return systems.find(({ name }) => name === 'Co-op CRM')!.id;
};
const open = async (page: Page, what: 'recognition' | 'doubles'): Promise<void> =>
  void (await page.goto(`${address()}/schema/${what}?system=${await system(page)}&entity=People`));

const report = (reporter: string, phone: string) =>
  fetch(`${address()}/in/swarm-report`, {
    method: 'POST',
    body: new URLSearchParams({ where: 'Pear tree', reporter, reporter_tel: phone, height: '2' }),
  });

/** Has the CRM's changes looked for now, and waits until somebody is known by a typed-in record. */
async function known(page: Page, values: Record<string, string>): Promise<void> {
  const at = `${address()}/api/systems/${await system(page)}/entities/People/recognition`;
  await expect
    .poll(
      async () => {
        await page.request.post(`${at}/measure`);
        const answer = await page.request.post(`${at}/try`, { data: { values } });
        return ((await answer.json()) as { records?: unknown[] }).records?.length ?? 0;
      },
      { timeout: 60_000, intervals: [500] },
    )
    .toBeGreaterThan(0);
}

test('the lines between same, unsure and different are moved, what that changes is seen, and they are saved', async ({
  app: page,
}) => {
  await page.goto(`${address()}/schema?system=${await system(page)}&entity=People`);
  await page.getByRole('link', { name: /^Recognition, / }).click();
  await expect(page.getByText('What counts as evidence')).toBeVisible();
  await expect(page.getByRole('row', { name: /Full name/ }).first()).toBeVisible();
  const same = page.getByRole('slider', { name: 'The same from' });
  await same.focus();
  for (let step = 0; step < 3; step += 1) await page.keyboard.press('ArrowRight');
  await expect(same).toHaveAttribute('aria-valuetext', '+10.0 bits');
  await expect(page.getByText('Not saved yet.')).toBeVisible();
  await expect(page.getByText(/Of [\d,]+ pairs/)).toBeVisible();
  // Dragged as well: the other line, a few bits to the left.
  const unsure = page.getByRole('slider', { name: 'Unsure from' });
  const box = (await unsure.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 - 30, box.y + box.height / 2, { steps: 6 });
  await page.mouse.up();
  await expect(unsure).not.toHaveAttribute('aria-valuetext', '0.0 bits');
  await page.getByRole('button', { name: 'Undo the changes' }).click();
  await expect(same).toHaveAttribute('aria-valuetext', '+7.0 bits');
  await same.focus();
  await page.keyboard.press('ArrowRight');
  await page.getByRole('button', { name: 'Save version 2' }).click();
  await expect(page.getByRole('button', { name: 'Save version 3' })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('slider', { name: 'The same from' })).toHaveAttribute('aria-valuetext', '+8.0 bits');
});

test('a pair near the lines is decided, weights are learned, and a typed-in record is weighed', async ({
  app: page,
}) => {
  await open(page, 'recognition');
  await expect(page.getByText('A pair near the lines')).toBeVisible();
  await page.keyboard.press('j');
  await page.keyboard.press('k');
  await page.keyboard.press('n');
  await expect(page.getByText('1 pair was decided by people', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Learn weights' }).click();
  await expect(page.getByText(/weights? learned from|nothing was learned/)).toBeVisible();
  await page.getByRole('button', { name: 'Try it' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Family name').fill('Nobody-Known-Here');
  await dialog.getByLabel('Phone').fill('000000');
  await dialog.getByRole('button', { name: 'Weigh it' }).click();
  await expect(dialog.getByText('nobody known comes near it')).toBeVisible();
  await expect(dialog.getByText('says nothing: only fills the field')).toBeVisible();
});

test('who may be somebody known is asked about, and decided both ways by one key', async ({ app: page }) => {
  const id = await enter({ first_name: 'Gundula', last_name: 'Ostermoorsen', phone: '+493023125903' });
  await known(page, { first_name: 'Gundula', last_name: 'Ostermoorsen', phone: '+493023125903' });
  await report('G. Ostermoorsen', '030 23125 771');
  await page.goto(`${address()}/review?show=decide&text=Ostermoorsen`);
  const queue = page.getByRole('list', { name: 'What waits' });
  await queue.getByRole('button', { name: /G\. Ostermoorsen/ }).click();
  await expect(page.getByText('Is this a Person we know?')).toBeVisible();
  await expect(page.getByRole('row', { name: /First name.*G\..*Gundula/ })).toBeVisible();
  await expect(page.getByText('nothing but the name speaks for it')).toBeVisible();
  await expect(page.getByRole('group', { name: `If it is ${id}` })).toBeVisible();
  await page.keyboard.press('1');
  await expect(queue.getByRole('button', { name: /G\. Ostermoorsen/ })).toHaveCount(0);
  await expect.poll(async () => (await crm(`Visits?$filter=person_id eq '${id}'`))['value']).toHaveLength(1);

  await report('G. Ostermoorsen', '030 23125 772');
  await queue.getByRole('button', { name: /G\. Ostermoorsen/ }).click();
  await expect(page.getByText('Is this a Person we know?')).toBeVisible();
  await page.keyboard.press('n');
  await expect(queue.getByRole('button', { name: /G\. Ostermoorsen/ })).toHaveCount(0);
  await expect.poll(async () => (await crm("People?$filter=last_name eq 'Ostermoorsen'"))['value']).toHaveLength(2);
});

test('doubles are looked for, a group is merged with what one chooses, and taken back', async ({ app: page }) => {
  const twin = { last_name: 'Zwillingsdorf', email: 'zw@biene.example', phone: '+493023125911', city: 'Jork' };
  const keep = await enter({ first_name: 'Adelheid', ...twin, birth_date: '1961-02-03' });
  const other = await enter({ first_name: 'Adelheit', ...twin, notes: 'Prefers letters' });
  await known(page, { first_name: 'Adelheit', last_name: 'Zwillingsdorf', email: 'zw@biene.example' });
  const visit = await crm('Visits', {
    method: 'POST',
    body: JSON.stringify({ kind: 'advice', place: 'Jork', reporter_phone: '+493023125911', person_id: other }),
  });
  await open(page, 'doubles');
  await page.getByRole('button', { name: 'Look for doubles' }).click();
  const groups = page.getByRole('list', { name: 'Groups' });
  await groups.getByRole('button', { name: /Zwillingsdorf/ }).click({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Which record stays' }).click();
  await page.getByRole('option', { name: new RegExp(keep) }).click();
  await page.getByRole('button', { name: `Keep First name of ${other}` }).click();
  // Deleting is asked about, by key as by button.
  await page.keyboard.press('m');
  await page
    .getByRole('dialog')
    .getByRole('button', { name: `Merge into ${keep}` })
    .click();
  await expect(groups.getByRole('button', { name: /Zwillingsdorf/ })).toHaveCount(0);
  expect(await crm(`People('${keep}')`)).toMatchObject({ first_name: 'Adelheit', notes: 'Prefers letters' });
  expect((await crm(`Visits('${visit['id']}')`))['person_id']).toBe(keep);
  expect(await crm(`People('${other}')`)).toHaveProperty('error');

  await page.getByRole('radio', { name: /^Merged/ }).click();
  await groups.getByRole('button').first().click();
  await page.getByRole('button', { name: 'Take the merge back' }).click();
  await page.getByRole('radio', { name: /^Taken back/ }).click();
  await expect(page.getByText(`${other} is P-`, { exact: false })).toBeVisible();
  expect(await crm(`People('${keep}')`)).toMatchObject({ first_name: 'Adelheid', notes: null });
  const led = String((await crm(`Visits('${visit['id']}')`))['person_id']);
  expect(led).not.toBe(keep);
  expect(await crm(`People('${led}')`)).toMatchObject({ first_name: 'Adelheit', notes: 'Prefers letters' });
});

test('the name alone as a key is measured before it is chosen; evidence is chosen by picking', async ({
  app: page,
}) => {
  const { intakes } = (await (await page.request.get(`${address()}/api/intakes`)).json()) as {
    intakes: { id: string; key: string }[];
  };
  await page.goto(`${address()}/intakes/${intakes.find(({ key }) => key === 'letters-sign-up')!.id}/plan`);
  const which = page.getByRole('button', { name: 'Which record' });
  await which.click();
  await pick(page, 'Find a field that a line fills, or another way', 'family');
  await expect(which).toContainText('Family name');
  const check = page.getByText(
    /Family name alone mixes up different records: of [\d,]+ records looked at, \d+ % share it/,
  );
  await expect(check).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(check).toHaveCount(0);
  await which.click();
  await pick(page, 'Find a field that a line fills, or another way', 'all evidence');
  await expect(which).toHaveText('all evidence together');
  await expect(page.getByRole('button', { name: 'When it is unsure' })).toHaveText('Ask in Review');
  await page.keyboard.press('Control+z');
  await expect(which).toHaveText('E-mail');
});

test('one file is matched against another', async ({ app: page }) => {
  await page.keyboard.press('Control+k');
  await pick(page, 'A person, a record, a field, an intake, something to do', 'match two files');
  const file = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
  await page
    .getByLabel('File of known records')
    .setInputFiles(file('a.csv', 'id,first_name,last_name,email\nA1,Ewa,Żuraw,ewa.zuraw@wabe.example\n'));
  await page.getByLabel('File to look up').setInputFiles(file('b.csv', 'name,email\nEwa,x@y.example\n'));
  await page.getByRole('button', { name: 'Match them' }).click();
  await expect(page.getByText('The queries have no column id.', { exact: false })).toBeVisible();
  await page
    .getByLabel('File to look up')
    .setInputFiles(
      file('b.csv', 'id,first_name,last_name,email\nQ1,Ewa,Zuraw,ewa.zuraw@wabe.example\nQ2,Jan,Nowak,\n'),
    );
  await page.getByRole('button', { name: 'Match them' }).click();
  await expect(page.getByText('1 same, 0 unsure, 1 different')).toBeVisible();
  await expect(page.getByRole('row', { name: /Q1 A1/ })).toContainText('same');
});
