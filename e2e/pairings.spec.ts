import type { APIRequestContext, Page } from '@playwright/test';
import { address, expect, pick, standins, test } from './stage.ts';

interface Pairing {
  id: string;
  filled: boolean;
  states: { inStep: number; onTheWay: number; asked: number; refused: number };
}

const pairing = async (page: Page, id: string): Promise<Pairing> =>
  ((await (await page.request.get(`${address()}/api/pairings/${id}`)).json()) as { pairing: Pairing }).pairing;

/** The CRM and Letters, asked directly, as somebody who works in them would change things. */
async function outside(request: APIRequestContext) {
  const token = await request.post(`${standins()}/letters/oauth/token`, {
    form: { grant_type: 'client_credentials', client_id: 'demo', client_secret: 'demo-secret' },
  });
  const letters = { Authorization: `Bearer ${((await token.json()) as { access_token: string }).access_token}` };
  const crm = { Authorization: 'Bearer demo-administrator', 'If-Match': '*' };
  const subscriber = async (id: string) =>
    (await (await request.get(`${standins()}/letters/v1/subscribers/${id}`, { headers: letters })).json()) as Record<
      string,
      unknown
    >;
  return {
    subscriber,
    changeSubscriber: async (id: string, values: object) => {
      const { version } = await subscriber(id);
      await request.patch(`${standins()}/letters/v1/subscribers/${id}`, {
        headers: letters,
        data: { ...values, version },
      });
    },
    person: async (id: string) =>
      (await (await request.get(`${standins()}/crm/odata/People('${id}')`, { headers: crm })).json()) as Record<
        string,
        unknown
      >,
    changePerson: (id: string, values: object) =>
      request.patch(`${standins()}/crm/odata/People('${id}')`, { headers: crm, data: values }),
  };
}

test('subscribers are kept in step with people, from the proposal to taking a change back', async ({ app: page }) => {
  test.slow();
  await page.getByRole('link', { name: 'Pairings' }).click();
  await page.getByRole('button', { name: 'New pairing' }).click();
  await page.getByRole('button', { name: 'Left side' }).click();
  await pick(page, 'Find an entity', 'Subscriber');
  await page.getByRole('button', { name: 'Right side' }).click();
  await pick(page, 'Find an entity', 'Person');
  // What goes with which is proposed, measured on the records.
  await expect(page.getByText('Subscriber · CRM id is Person · Id')).toBeVisible();
  await expect(page.getByText(/finds \d+ pairs among/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Make this pairing' }).click();
  await expect(page.getByRole('radiogroup', { name: 'Given name travels' })).toBeVisible();
  const id = page.url().split('/').at(-1)!.split('?')[0]!;

  // Fields that aren't wanted are unlinked; the family name is asked about.
  const rows = page.locator('tbody tr', { has: page.getByRole('radiogroup', { name: / travels$/ }) });
  await expect(rows.first()).toBeVisible();
  await page
    .getByRole('radiogroup', { name: 'Who decides about Family name' })
    .getByRole('radio', { name: 'Somebody is asked' })
    .click();
  await page
    .getByRole('radiogroup', { name: 'Interests travels' })
    .getByRole('radio', { name: 'To the left only' })
    .click();
  await expect(page.getByText('keeping …')).toHaveCount(0);
  await page.getByRole('button', { name: 'Rehearse on 200 pairs' }).click();
  await expect(page.getByText(/Rehearsed on \d+ pairs/)).toBeVisible();
  await page.getByRole('button', { name: 'Back to the fields' }).click();

  await page.getByRole('button', { name: 'Start', exact: true }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Start' }).click();
  await page.getByRole('button', { name: 'Pause' }).click();
  await expect(page.getByText(/paused/).first()).toBeVisible();
  // The browser is closed and opened again meanwhile.
  await page.reload();
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect.poll(async () => (await pairing(page, id)).filled, { timeout: 120_000 }).toBe(true);
  await expect.poll(async () => (await pairing(page, id)).states.onTheWay, { timeout: 60_000 }).toBe(0);

  const { subscriber, changeSubscriber, person, changePerson } = await outside(page.request);
  const { changes } = (await (
    await page.request.get(`${address()}/api/ledger?entity=subscribers&limit=50`)
  ).json()) as {
    changes: { recordId: string; pairing?: { id: string; from: string } }[];
  };
  const ours = changes.filter((change) => change.pairing?.id === id);
  const [first, second, third] = ours.map(({ recordId, pairing: from }) => ({ left: recordId, right: from!.from }));

  // A value changed in the CRM is in Letters.
  await changePerson(first!.right, { first_name: 'Zenobia' });
  await expect.poll(async () => (await subscriber(first!.left))['given'], { timeout: 20_000 }).toBe('Zenobia');

  // Both changed otherwise: asked in Review, decided by one key.
  await page.getByRole('button', { name: 'Pause' }).click();
  await expect(page.getByRole('button', { name: 'Go on' })).toBeVisible();
  await changePerson(second!.right, { last_name: 'Kernmann' });
  await changeSubscriber(second!.left, { family: 'Kornmann' });
  await page.getByRole('button', { name: 'Go on' }).click();
  await page.getByRole('link', { name: 'Review' }).click();
  await page.getByRole('link', { name: /^Pairs/ }).click();
  await page.getByRole('button', { name: /Kernmann|Kornmann/ }).click();
  await expect(page.getByText('Both sides have changed since they last agreed. Which value counts?')).toBeVisible();
  await page.keyboard.press('2');
  await expect.poll(async () => (await subscriber(second!.left))['family'], { timeout: 20_000 }).toBe('Kernmann');

  // An option that Letters doesn't have stops that field of that pair, and is told as one cause.
  await changePerson(third!.right, { interests: ['swarms'], first_name: 'Swantje' });
  await expect.poll(async () => (await subscriber(third!.left))['given'], { timeout: 20_000 }).toBe('Swantje');
  await page.goto(`${address()}/pairings/${id}`);
  await expect(page.getByText(/“swarms” is not among the options/).first()).toBeVisible();
  await changePerson(third!.right, { interests: ['honey'] });

  // One change is taken back; the pair stays at rest.
  const former = (await person(first!.right))['first_name'];
  await changeSubscriber(first!.left, { given: 'Mistake' });
  await expect.poll(async () => (await person(first!.right))['first_name'], { timeout: 20_000 }).toBe('Mistake');
  await expect.poll(async () => (await pairing(page, id)).states.onTheWay, { timeout: 60_000 }).toBe(0);
  await page.goto(`${address()}/ledger?by=change&text=${first!.right}`);
  await expect(page.getByText(`came from ${first!.left}`).first()).toBeVisible();
  const { changes: all } = (await (
    await page.request.get(`${address()}/api/ledger?record=${first!.right}&limit=1`)
  ).json()) as { changes: { id: number }[] };
  await page.request.post(`${address()}/api/ledger/${all[0]!.id}/take-back`);
  await expect.poll(async () => (await person(first!.right))['first_name']).toBe(former);
  await page.waitForTimeout(3_000);
  expect((await person(first!.right))['first_name']).toBe(former);
  expect((await subscriber(first!.left))['given']).toBe('Mistake');

  await page.goto(`${address()}/pairings/${id}`);
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.getByText('Remove this pairing…').click();
  await page.getByRole('dialog').getByRole('button', { name: 'Remove it' }).click();
  await expect(page.getByRole('heading', { name: 'Pairings' })).toBeVisible();
  expect((await page.request.get(`${address()}/api/pairings/${id}`)).status()).toBe(404);
});
