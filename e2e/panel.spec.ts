import type { FrameLocator, Page } from '@playwright/test';
import { address, expect, pick, signInToCrm, standins, test } from './stage.ts';

/** A form on a record's page: people act as themselves, and what a child has of its parent is filled in. Two origins. */

const crm = async (page: Page, path: string, data?: object) => {
  const headers = { Authorization: 'Bearer demo-administrator' };
  const at = `${standins()}/crm/odata/${path}`;
  const answer = data ? await page.request.post(at, { headers, data }) : await page.request.get(at, { headers });
  return (await answer.json()) as Record<string, string> & { value: Record<string, string>[] };
};

const panelOn = (page: Page): FrameLocator => page.getByRole('region', { name: 'Panel' }).frameLocator('iframe');

test('people act as themselves: found where the system publishes it, and tried with the inspector', async ({
  app: page,
  browser,
}) => {
  await page.goto(`${address()}/systems`);
  await page.getByRole('button', { name: 'Change…' }).nth(1).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Issuer').fill('https://nobody.example');
  await dialog.getByRole('button', { name: 'Find' }).click();
  await expect(dialog.getByText('Found: it publishes where its keys are')).toBeVisible();
  await expect(dialog.getByLabel('Issuer')).toHaveValue(`${standins()}/crm`);
  await expect(dialog.getByLabel('Tokens are exchanged at')).toHaveValue(`${standins()}/crm/oauth/token`);
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog).toHaveCount(0);

  await page.getByRole('button', { name: 'Try with somebody…' }).click();
  const audience = await page.getByRole('dialog').locator('code').first().innerText();
  const other = await browser.newPage();
  await signInToCrm(other, 'inspector', '/crm/panels');
  await other.goto(`${standins()}/crm/panels`);
  await other.getByLabel('For the address').fill(audience);
  await other.getByRole('button', { name: 'Sign a context of mine' }).click();
  const context = await other.locator('#context').inputValue();
  await other.close();
  await page.getByLabel('Signed context').fill(context);
  await page.getByRole('button', { name: 'Try', exact: true }).click();
  await expect(page.getByRole('dialog').getByText('Ines Ortmann')).toBeVisible();
  const may = page
    .getByRole('row', { name: /^Contract read/ })
    .or(page.getByRole('row', { name: /^Contract only read/ }));
  await expect(may.first()).toContainText('not create, update, delete');
});

test('an inspection is made, put on pages of the CRM, and filled in there by the inspector; a partner is told why not', async ({
  app: page,
  browser,
}) => {
  await page.goto(`${address()}/intakes/new`);
  await page.getByRole('radio', { name: 'a form of ours' }).click();
  await page.getByRole('radio', { name: /^Nothing/ }).check();
  await page.getByLabel('Name', { exact: true }).fill('Inspection at the gate');
  await page.getByRole('button', { name: 'Make this intake' }).click();
  await expect(page.getByRole('heading', { name: 'Inspection at the gate', level: 1 })).toBeVisible();

  // It asks for a visit, and in rows for apiaries.
  const another = async (entity: string): Promise<void> => {
    await page.getByRole('button', { name: 'Another record' }).click();
    await pick(page, 'Find an entity', entity);
  };
  await another('Visit');
  const visit = page.getByRole('region', { name: 'Visit', exact: true });
  for (const label of ['Kind', 'Place', 'Reporter’s phone']) await visit.getByLabel(`Ask for ${label}`).check();
  await page.getByRole('button', { name: 'Ask for more' }).click();
  await pick(page, 'Ask for a field, or a kind of question', 'rows of questions');
  await another('Bee yard');
  await page.getByRole('link', { name: /^Plan/ }).click();
  await page
    .getByRole('button', { name: /^Bee yard/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'How often' }).click();
  await page.getByText(/^for every row of/).click();
  await page.getByRole('link', { name: /^Arrive/ }).click();
  const apiary = page.getByRole('region', { name: 'Bee yard', exact: true });
  for (const label of ['Name', 'Hives']) await apiary.getByLabel(`Ask for ${label}`).check();

  // On the pages of an organisation, and of a person: the relations are set by themselves, other lines suggest themselves.
  await page.getByRole('button', { name: 'Who opens it' }).click();
  await pick(page, 'On pages of …', 'Organisation');
  await page.getByRole('button', { name: 'On whose pages' }).click();
  await pick(page, 'On pages of …', 'Person');
  await expect(page.getByText('Opens on pages of Organisation or Person')).toBeVisible();
  await expect(visit.getByLabel('Ask for Person')).toBeChecked();
  // What suggests itself of the parent: shown, unseen, or all that nobody is asked for.
  await visit.getByRole('button', { name: 'Fill in Reporter’s phone' }).click();
  await page.getByRole('button', { name: 'filled in and shown' }).click();
  await visit.getByRole('button', { name: 'Fill in Owner' }).click();
  await page.getByRole('button', { name: 'filled in', exact: true }).click();
  await apiary.getByRole('button', { name: /^fill in (all|the) / }).click();
  await expect(apiary.getByLabel('Ask for City')).toBeChecked();
  const phone = page.getByRole('list', { name: 'Questions' }).locator('[data-question="reporter_phone"]');
  await expect(phone).toContainText('the Organisation’s Phone or the Person’s Phone');

  // Open gives the line, once its pages are named and it is published.
  await page.getByRole('link', { name: /^Open/ }).click();
  await page.getByLabel('Pages of these origins may show the form').fill(standins());
  await page.getByLabel('Pages of these origins may show the form').blur();
  await expect(page.getByText('◆ No page has shown it yet.')).toBeVisible();
  await page.getByRole('button', { name: /^Publish version 1/ }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Publish version 1' }).click();
  await expect(page.getByText('Live, version 1')).toBeVisible();
  const line = await page.locator('code', { hasText: 'data-panel' }).innerText();

  // Whoever keeps the records puts it on the pages of organisations.
  const at = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const other = await at.newPage();
  await signInToCrm(other, 'keeper', '/crm/panels');
  await other.goto(`${standins()}/crm/panels`);
  await other.getByLabel('Panel on Organisation pages').fill(line);
  await other.getByRole('button', { name: 'Keep the panel of Organisations' }).click();
  const { id } = await crm(page, 'Organisations', {
    name: 'Hof am Tor',
    phone: '+49 30 23125 010',
    city: 'Hollowbrook',
  });

  // The inspector opens that page: the panel begins with its values, grows with its rows, and is sent.
  await signInToCrm(other, 'inspector');
  await other.goto(`${standins()}/crm/Organisations/${id}`);
  const panel = panelOn(other);
  await expect(panel.getByText('You act here as Ines Ortmann.')).toBeVisible();
  await expect(panel.getByLabel('Reporter’s phone')).toHaveValue('+49 30 23125 010');
  const tall = async (): Promise<number> => (await other.locator('iframe').boundingBox())!.height;
  const before = await tall();
  await panel.getByLabel('Inspection').check();
  await panel.getByLabel('Place').fill('At the gate');
  await panel.getByLabel('Name').fill('Gate');
  await panel.getByLabel('Hives').fill('5');
  await panel.getByRole('button', { name: 'One more' }).click();
  await expect.poll(tall).toBeGreaterThan(before);
  await panel.getByLabel('Name').nth(1).fill('Wall');
  await panel.getByLabel('Hives').nth(1).fill('2');
  await panel.getByRole('button', { name: 'Send' }).last().click();
  // The page shows what came of it, as soon as it has.
  await expect(panel.getByText('This came of it:')).toBeVisible();
  const related = other.locator('#related');
  await expect(related.getByText('At the gate, by Ines Ortmann')).toBeVisible();
  await expect(related.getByText(/H-\d+ Gate, by Ines Ortmann/)).toBeVisible();
  await expect(related.getByText('Wall, by Ines Ortmann')).toBeVisible();
  const { value: visits } = await crm(page, `Visits?$filter=organisation_id eq '${id}'`);
  await other.goto(`${standins()}/crm/Visits/${visits[0]!['id']}`);
  await expect(other.locator('#history').getByText('Ines Ortmann')).toBeVisible();

  // A partner is told before anything is typed.
  await signInToCrm(other, 'partner');
  await other.goto(`${standins()}/crm/Organisations/${id}`);
  await expect(panel.getByText('create a record of the kind Visit')).toBeVisible();
  await expect(panel.getByRole('button', { name: 'Send' })).toHaveCount(0);
  await at.close();

  // Open says when it was seen there, and by whom; the ledger names both.
  await page.reload();
  await expect(page.getByText(/Seen .* by Pelle Storm, on Organisations/)).toBeVisible();
  await page.goto(`${address()}/ledger?text=${encodeURIComponent(String(visits[0]!['id']))}`);
  await expect(page.getByText('Ines Ortmann, by the connection').first()).toBeVisible();
});
