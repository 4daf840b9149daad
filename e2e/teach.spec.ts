import type { Page } from '@playwright/test';
import { strictJson, type StrictJson } from '../server/testing/json/strict.ts';
import { address, expect, test } from './stage.ts';

/** A system with a plain JSON API is taught by its description, used, handed on, and follows when its API changes. */
interface Step {
  id: string;
  system: string;
  entity: string;
  recognise: { fields: string[] }[];
  lines: { id: string; field: string; from: string[] }[];
}
interface Document {
  name: string;
  source: object;
  settings: object;
  plan: { steps: Step[] };
}

const api = async <T>(page: Page, method: 'get' | 'post', path: string, data?: unknown): Promise<T> => {
  const response = await page.request[method](`${address()}/api${path}`, data === undefined ? {} : { data });
  expect(response.status(), await response.text()).toBeLessThan(300);
  return (await response.json()) as T;
};

let service: StrictJson;
test.beforeAll(async () => {
  service = await strictJson({ paging: 'page', version: 'body', repeat: 'key', changes: true });
  for (const name of ['Ada', 'Bert', 'Cleo', 'Dora', 'Edgar'])
    service.add({ name, email: `${name.toLowerCase()}@meadow.example`, hives: 3, kind: 'full' });
});
test.afterAll(() => service.close());

/** An intake like the letters' sign-up, whose second step goes to the taught system. */
async function intakeInto(page: Page, key: string, system: string): Promise<string> {
  const { intakes } = await api<{ intakes: { id: string; key: string }[] }>(page, 'get', '/intakes');
  const known = intakes.find((each) => each.key === 'letters-sign-up')!;
  const { intake } = await api<{ intake: { draft: Document } }>(page, 'get', `/intakes/${known.id}`);
  const document = intake.draft;
  document.name = 'Sign-up to keepers';
  // Whatever other tests have set for the website's own form.
  document.source = { kind: 'program' };
  document.settings = { perMinute: 6000, country: 'DE', locale: 'de-DE', zone: 'Europe/Berlin' };
  const called: Record<string, string> = { email: 'email', given: 'name', campaign: 'note' };
  document.plan.steps = document.plan.steps.flatMap((step) =>
    step.id !== 'subscriber'
      ? []
      : [
          {
            ...step,
            system,
            entity: 'keepers',
            lines: step.lines.flatMap((line) => (called[line.field] ? [{ ...line, field: called[line.field]! }] : [])),
          },
        ],
  );
  const made = await api<{ intake: { id: string } }>(page, 'post', '/intakes', { key, document });
  return made.intake.id;
}

test('an API is taught, corrected, tried, used, and followed when it changes', async ({ app: page }) => {
  await test.step('by the address of its description: entities, paging, ids and fields stand there with their reasons', async () => {
    await page.getByRole('link', { name: 'Systems' }).click();
    await page.getByRole('button', { name: 'Connect a system' }).click();
    await page.getByLabel('Name').fill('Keepers');
    await page.getByLabel('Address', { exact: true }).fill(service.description);
    await page.getByRole('button', { name: 'Read and connect' }).click();
    await expect(page.getByText('plain JSON, by its OpenAPI description; 1 entity: Keeper.')).toBeVisible();
    await page.getByRole('button', { name: 'Connect', exact: true }).click();
    await expect(page.getByRole('heading', { name: 'How it is spoken to' })).toBeVisible();
    await expect(page.getByText(/there is a parameter page\. Likely: 85 %/)).toBeVisible();
    await expect(page.getByRole('button', { name: 'How pages follow one another: a page number' })).toBeVisible();
    await expect(
      page.getByRole('button', { name: 'What makes sending again safe: a header makes it done once' }),
    ).toBeVisible();
  });

  await test.step('one is corrected, and every operation is tried with its real answer beside it', async () => {
    await page.getByRole('button', { name: 'Label: Note' }).click();
    await page.getByLabel('Label', { exact: true }).fill('Remark');
    await page.getByRole('button', { name: 'Take it' }).click();
    await page.getByRole('button', { name: 'Save version 2' }).click();
    await expect(page.getByRole('button', { name: 'version 2', exact: true })).toBeVisible();
    await page.getByRole('button', { name: /^Try all 9/ }).click();
    await expect(page.getByText('● 9 of 9')).toBeVisible();
    await expect(page.getByLabel('What it answered')).toContainText('"ada@meadow.example"');
    await page.getByRole('button', { name: /^create:/ }).click();
    await expect(page.getByText('POST /keepers', { exact: true })).toBeVisible();
    await page.getByRole('button', { name: /^delete:/ }).click();
    await expect(page.getByText('Removed.', { exact: true })).toBeVisible();
    expect(service.rows).toHaveLength(5);
  });

  const { systems } = await api<{ systems: { id: string; name: string }[] }>(page, 'get', '/systems');
  const system = systems.find(({ name }) => name === 'Keepers')!.id;
  const intake = await intakeInto(page, 'sign-up-keepers', system);
  const send = async (values: Record<string, string>): Promise<void> => {
    const body = new URLSearchParams({ ok: '1', ...values });
    const response = await fetch(`${address()}/in/sign-up-keepers`, { method: 'POST', body });
    expect(response.status, await response.text()).toBe(202);
  };

  await test.step('an intake into it is rehearsed: the known one and the new one, before and after', async () => {
    await page.goto(`${address()}/intakes/${intake}/rehearse`);
    for (const [mail, name] of [
      ['ADA@meadow.example', 'Adelheid'],
      ['fritz@meadow.example', 'Fritz'],
    ]) {
      await page.getByRole('button', { name: 'Add a sample' }).click();
      await page.getByRole('radio', { name: 'Paste what is sent' }).click();
      await page.getByLabel('What a form sends').fill(JSON.stringify({ mail, vorname: name, utm_campaign: 'spring' }));
      await page.getByRole('button', { name: 'Keep this sample' }).click();
    }
    await expect(page.getByText('known, by Email').or(page.getByText('Fritz')).first()).toBeVisible();
    expect(service.rows).toHaveLength(5);
  });

  await test.step('it is opened, creates and updates, and both are taken back', async () => {
    await api(page, 'post', `/intakes/${intake}/publish`, { revision: 1, accept: true });
    await send({ mail: 'ADA@meadow.example', vorname: 'Adelheid', utm_campaign: 'spring' });
    await send({ mail: 'fritz@meadow.example', vorname: 'Fritz', utm_campaign: 'fair' });
    await page.goto(`${address()}/intakes/${intake}/history`);
    await expect(page.getByRole('button', { name: /fritz@meadow.example|Fritz/ }).first()).toBeVisible();
    await expect(async () => {
      // What became of them is told with what is missing.
      const told = await api<{ submissions: { state: string; words: string | null; outcome?: string }[] }>(
        page,
        'get',
        `/submissions?intake=${intake}`,
      );
      const said = told.submissions.map(({ state, words, outcome }) => [state, outcome, words].join(' ')).join('; ');
      const why = `${said}; ${service.asked.slice(-10).join(', ')}; ${JSON.stringify(service.rows)}`;
      expect(service.rows[0], why).toMatchObject({ name: 'Adelheid', note: 'spring' });
      expect(service.rows.filter(({ name }) => name === 'Fritz')).toHaveLength(1);
    }).toPass({ timeout: 60_000 });
    for (const who of [/Adelheid|ADA@/, /Fritz|fritz@/]) {
      await page.getByRole('button', { name: who }).first().click();
      await page.getByRole('article').getByRole('button', { name: 'Take back' }).first().click();
      await expect(page.getByRole('article').locator('header')).toContainText('taken back');
    }
    expect(service.rows.map(({ name }) => name)).toEqual(['Ada', 'Bert', 'Cleo', 'Dora', 'Edgar']);
  });

  await test.step('its API changes: a field has another name, pages are cursors; it is said, and mended in one', async () => {
    service.variant.renamed = true;
    service.variant.paging = 'cursor';
    await page.goto(`${address()}/systems/${system}/adapter`);
    await page.getByRole('button', { name: 'Look whether the API has changed' }).click();
    await expect(page.getByText('Paging was by page, and is by cursor.')).toBeVisible();
    await expect(page.getByText('Note (note) seems to be called remark now.')).toBeVisible();
    // Where it is used, a check says so.
    await page.goto(`${address()}/intakes/${intake}/plan`);
    await expect(page.getByText(/Keepers is no longer spoken to as its adapter says, for Keeper/)).toBeVisible();
    await page.goto(`${address()}/systems/${system}/adapter`);
    await page.getByRole('button', { name: /^Take all \d over/ }).click();
    await page.getByRole('button', { name: 'Save version 3' }).click();
    await expect(page.getByRole('button', { name: 'version 3', exact: true })).toBeVisible();
    await page.getByRole('button', { name: 'Look whether the API has changed' }).click();
    await expect(page.getByText('It is as it was.')).toBeVisible();
    // The line that fills the field goes on as it was.
    await send({ mail: 'gesa@meadow.example', vorname: 'Gesa', utm_campaign: 'autumn' });
    await expect(() => {
      expect(service.rows.find(({ name }) => name === 'Gesa')).toMatchObject({ note: 'autumn' });
    }).toPass();
  });
});

test('an adapter is kept as a file, and taken in elsewhere with a sign-in of its own', async ({ app: page }) => {
  const { systems } = await api<{ systems: { id: string; name: string }[] }>(page, 'get', '/systems');
  await page.goto(`${address()}/systems/${systems.find(({ name }) => name === 'Co-op Letters')!.id}/adapter`);
  await page.getByRole('button', { name: 'As a document' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Keep as a file' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('co-op-letters.adapter.json');
  const path = await download.path();
  // What makes no sense is told place by place, and nothing is taken.
  await page.getByLabel('The adapter as JSON').fill('{"format": 1, "entities": [{"name": "x y"}]}');
  await page.getByRole('button', { name: 'Take this one' }).click();
  await expect(page.getByText(/entities\.0\.name must be a name of letters/)).toBeVisible();
  await page.keyboard.press('Escape');

  await page.goto(`${address()}/systems?connect=1`);
  await page.getByLabel('Name').fill('Letters, to read');
  await page.getByLabel('A description or an adapter as a file').setInputFiles(path);
  await page.getByRole('button', { name: 'Read and connect' }).click();
  await expect(
    page.getByText('plain JSON, by the adapter in the file; 3 entities: Subscriber, Letter, Answer.'),
  ).toBeVisible();
  await page.getByLabel('Client id').fill('reader');
  await page.getByLabel('Client secret').fill('wrong');
  await page.getByRole('button', { name: 'Connect', exact: true }).click();
  await expect(page.getByText(/Its token endpoint/)).toBeVisible();
  await page.getByLabel('Client secret').fill('reader-secret');
  await page.getByRole('button', { name: 'Connect', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'How it is spoken to' })).toBeVisible();
  await page.getByRole('button', { name: /^Try all/ }).click();
  await expect(page.getByText('This client may only read.').first()).toBeVisible();
  await page.goto(`${address()}/systems`);
  await page.getByRole('row', { name: /Letters, to read/ }).click();
  await page.getByRole('button', { name: 'Change…' }).click();
  await page.getByRole('button', { name: 'Disconnect…' }).click();
  await page.getByRole('button', { name: 'Disconnect Letters, to read' }).click();
  await expect(page.getByText('Letters, to read')).toHaveCount(0);
});
