import type { Page } from '@playwright/test';
import { Actions } from './actions.ts';
import { address, expect, pick, standins, test } from './stage.ts';

const publish = async (actions: Actions): Promise<void> => {
  await actions.click(actions.button('Publish version 1'));
  await actions.click(actions.page.getByRole('dialog').getByRole('button', { name: 'Publish version 1' }));
  await expect(actions.page.getByText('Live, version 1')).toBeVisible();
};
const entity = async (actions: Actions, name: string): Promise<void> => {
  await actions.click(actions.page.getByRole('option', { name: new RegExp(`^${name} (\\d|to look)`) }));
  await expect(actions.page.getByRole('radio', { name: /^All lines/ })).toBeVisible();
};
/** Takes what is offered but not sure enough to be set, where there is any. */
const acceptOffered = async (actions: Actions): Promise<void> => {
  const accept = actions.page.getByRole('button', { name: /^accept all/ });
  if (await accept.isVisible()) await actions.click(accept);
};
const always = async (page: Page, field: string, value: string): Promise<void> => {
  await page.getByRole('button', { name: `Fill ${field}` }).click();
  await page.getByRole('option', { name: 'always the same, or computed' }).click();
  await page.getByLabel('Always').selectOption(value);
  await page.getByRole('button', { name: 'Done' }).click();
};
const use = async (page: Page, source: string, field: string): Promise<void> => {
  await page.getByRole('button', { name: `Use ${source}`, exact: true }).click();
  await pick(page, `Where does ${source} go?`, field);
};
const crm = async (path: string): Promise<{ value: Record<string, unknown>[] }> =>
  (await (
    await fetch(`${standins()}/crm/odata/${path}`, { headers: { Authorization: 'Bearer demo-administrator' } })
  ).json()) as { value: Record<string, unknown>[] };

/** Starts a new intake and reads a page of the website by its address. */
const readPage = async (actions: Actions, name: string): Promise<void> => {
  await actions.page.goto(`${address()}/intakes`);
  await actions.click(actions.button('New intake'));
  await actions.type(actions.page.getByLabel('Address of the page'), `${standins()}/site/${name}`);
  await actions.click(actions.button('Read it'));
  await actions.click(actions.button('Make this intake'));
};

test('the pollination form is published in at most twelve actions', async ({ app: page }) => {
  const actions = new Actions(page);
  await readPage(actions, 'pollination-enquiry');
  await entity(actions, 'Person');
  await expect(page.locator('tr[data-field="last_name"]')).toBeVisible();
  await acceptOffered(actions);
  await publish(actions);
  expect(actions.count).toBeLessThanOrEqual(12);
  // What was published is worth it: the values of a visitor arrive in the right fields.
  const post = await fetch(`${address()}/in/pollination-enquiry-2`, {
    method: 'POST',
    headers: { Origin: new URL(standins()).origin },
    body: new URLSearchParams({
      contact_first: 'Zuza',
      contact_last: 'Dwunasta',
      contact_email: 'zuza12@pszczoly.example',
      plz: '21614',
      town: 'Kirschfelde',
    }),
  });
  expect(post.status).toBe(202);
  await expect
    .poll(async () => (await crm(`People?$filter=${encodeURIComponent("email eq 'zuza12@pszczoly.example'")}`)).value)
    .toMatchObject([{ first_name: 'Zuza', last_name: 'Dwunasta', postcode: '21614', city: 'Kirschfelde' }]);
});

test('a page with a search, a sign-in and a form in German becomes an intake that splits names', async ({
  app: page,
}) => {
  const actions = new Actions(page);
  await page.goto(`${address()}/intakes/new`);
  await page.getByLabel('Address of the page').fill(`${standins()}/site/write-to-us`);
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(page.getByText('3 forms are on the page')).toBeVisible();
  await expect(page.getByText('12 fields found')).toBeVisible();
  await page.getByRole('button', { name: 'Make this intake' }).click();
  await entity(actions, 'Person');
  await expect(page.locator('tr[data-field="first_name"]')).toContainText('given name of it');
  await expect(page.locator('tr[data-field="last_name"]')).toContainText('family name of it');
  await acceptOffered(actions);
  await publish(actions);
});

test('a booking for a course is mapped with a lookup and paired options, and a swarm with a fixed kind', async ({
  app: page,
}) => {
  const actions = new Actions(page);
  await readPage(actions, 'beginners-course');
  await entity(actions, 'Booking');
  await expect(page.locator('tr[data-field="course_id"]')).toContainText('look up in Courses by name');
  await acceptOffered(actions);
  await publish(actions);
  await fetch(`${address()}/in/beginners-course`, {
    method: 'POST',
    headers: { Origin: new URL(standins()).origin },
    body: new URLSearchParams({
      course: 'Queen breeding',
      'booker.name': 'Ola Nowak',
      'booker.email': 'ola@pszczoly.example',
      heads: '1',
      meal: 'vegan',
    }),
  });
  await expect
    .poll(
      async () =>
        (await crm(`Bookings?$filter=${encodeURIComponent("contact_email eq 'ola@pszczoly.example'")}`)).value,
    )
    .toMatchObject([{ contact_name: 'Ola Nowak', course_id: 'K-00003' }]);

  await readPage(actions, 'swarm-report');
  await entity(actions, 'Visit');
  await expect(
    page.locator('tr[data-field="place"], button[aria-label="Use Where is it hanging?"]').first(),
  ).toBeVisible();
  for (const [source, field] of [
    ['Where is it hanging?', 'place'],
    ['Your telephone', 'reporter’s phone'],
  ] as const)
    if ((await page.getByRole('button', { name: `Use ${source}`, exact: true }).count()) > 0)
      await use(page, source, field);
  await expect(page.getByText('Kind is required for a new Visit, and no line fills it.')).toBeVisible();
  await always(page, 'Kind', 'swarm');
  await acceptOffered(actions);
  await publish(actions);
});

test('an order of the shop becomes a record, signed and once', async ({ app: page }) => {
  const actions = new Actions(page);
  const event = {
    type: 'order.paid',
    timestamp: '2027-03-01T10:00:00Z',
    data: {
      number: 'H-00000',
      status: 'paid',
      placed_at: '2027-03-01T09:59:00Z',
      currency: 'EUR',
      total: 41.3,
      buyer: { name: 'Ada Moor', email: 'ada@hive.example', phone: '' },
      delivery: { street: 'Deichweg 3', postcode: '21614', city: 'Hollowbrook', country: 'Germany' },
      lines: [{ sku: 'HNY-500', name: 'Meadow honey', quantity: 2, price: 7.2 }],
      note: '',
    },
  };
  await page.goto(`${address()}/intakes/new?from=events`);
  await page.getByLabel('One or more events as they are sent').fill(JSON.stringify(event));
  await page.getByLabel('Name', { exact: true }).fill('Shop orders');
  await page.getByRole('button', { name: 'Make this intake' }).click();
  await entity(actions, 'Order');
  await expect(page.locator('tr[data-field="number"]')).toContainText('H-00000');
  await acceptOffered(actions);
  await expect(page.getByText(/taken in unsigned/)).toBeVisible();
  await page.getByRole('link', { name: /^Open/ }).click();
  await page.getByRole('button', { name: 'Make a key' }).click();
  const secret = await page.getByText(/^whsec_/).innerText();
  await page.getByRole('link', { name: /^Plan/ }).click();
  await expect(page.getByText(/taken in unsigned/)).toHaveCount(0);
  await publish(actions);

  const shop = await page.context().newPage();
  await shop.goto(`${standins()}/shop/office`);
  await shop.getByLabel('Address').fill(`${address()}/in/shop-orders`);
  await shop.getByLabel('Key').fill(secret);
  await shop.getByRole('button', { name: 'Set' }).click();
  await shop.goto(`${standins()}/shop/`);
  await shop.getByLabel('Veil with hat').fill('2');
  await shop.getByRole('button', { name: 'To the checkout' }).click();
  for (const [label, value] of [
    ['Name', 'Berta Holm'],
    ['E-mail', 'berta@hive.example'],
    ['Street and number', 'Am Deich 14a'],
    ['Postcode', '21614'],
    ['City', 'Hollowbrook'],
    ['Card number', '0000 1111 0000 1111'],
  ] as const)
    await shop.getByLabel(label).fill(value);
  await shop.getByRole('button', { name: 'Order and pay' }).click();
  const number = await shop.locator('#number').innerText();
  await expect
    .poll(async () => (await crm(`Orders?$filter=${encodeURIComponent(`number eq '${number}'`)}`)).value, {
      timeout: 20_000,
    })
    .toMatchObject([
      {
        number,
        status: 'paid',
        total: 44,
        currency: 'EUR',
        buyer_email: 'berta@hive.example',
        delivery_city: 'Hollowbrook',
      },
    ]);
});

test('an old file becomes an intake, and its rows are taken in with a report', async ({ app: page }) => {
  const actions = new Actions(page);
  const rows = Array.from(
    { length: 60 },
    (_, at) => `Iga;Piata${at};iga${at}@pszczoly.example;${10 + (at % 20)}.03.2019`,
  );
  rows[3] = 'one;cell;too;many;here';
  await page.goto(`${address()}/intakes/new?from=file`);
  await page.getByLabel('A file with submissions').setInputFiles({
    name: 'members 2019.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`Vorname;Nachname;E-Mail;Geburtsdatum\n${rows.join('\n')}\n`, 'latin1'),
  });
  await expect(page.getByText(/60 rows, 4 columns, parted by semicolons/)).toBeVisible();
  await expect(page.getByText('Row 5 has 5 cells, the heading has 4')).toBeVisible();
  await page.getByRole('button', { name: 'Make this intake' }).click();
  await entity(actions, 'Person');
  await expect(page.locator('tr[data-field="birth_date"]')).toBeVisible();
  await publish(actions);
  await page.getByRole('button', { name: 'Rehearse the 60 rows of members 2019.csv' }).click();
  const rehearsed = page.getByRole('region', { name: 'members 2019.csv rehearsed' });
  await expect(rehearsed).toContainText('59 records new');
  await expect(rehearsed.getByRole('row', { name: /^5 / })).toContainText('has 5 cells, the heading has 4');
  await rehearsed.getByRole('button', { name: 'Take in the 60 rows' }).click();
  await expect(page.getByText('60 of 60 rows, 59 taken in, 1 not taken in')).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'members 2019.csv', exact: true }).click();
  await expect(page.getByText('not taken in: has 5 cells, the heading has 4')).toBeVisible();
  await expect(page.getByRole('row', { name: /Iga Piata0/ })).toContainText('applied', { timeout: 30_000 });
});

test('a page’s own form is copied without being held up, also what was sent while offline', async ({ app: page }) => {
  const visitor = await page.context().newPage();
  await visitor.goto(`${standins()}/site/letters-sign-up?attach=letters-sign-up&utm_source=spring-fair`);
  await expect(visitor.locator('input[name=utm_source]')).toHaveValue('spring-fair');
  const signUp = async (mail: string): Promise<void> => {
    await visitor.locator('input[name=vorname]').fill('Wanda');
    await visitor.locator('input[name=nachname]').fill('Kopia');
    await visitor.locator('input[name=mail]').fill(mail);
    await visitor.locator('input[name=ok]').check();
    await visitor.getByRole('button', { name: /Sign up/ }).click();
    // The page's own handling goes on as ever.
    await expect(visitor.getByText('Dziękujemy!')).toBeVisible();
  };
  await signUp('wanda@pszczoly.example');
  const arrived = async (mail: string) =>
    (await crm(`People?$filter=${encodeURIComponent(`email eq '${mail}'`)}`)).value.length;
  await expect.poll(() => arrived('wanda@pszczoly.example')).toBe(1);

  await visitor.goto(`${standins()}/site/letters-sign-up?attach=letters-sign-up`);
  await visitor.route('**/in/letters-sign-up', (route) => route.abort());
  await signUp('offline@pszczoly.example');
  expect(await arrived('offline@pszczoly.example')).toBe(0);
  await visitor.unroute('**/in/letters-sign-up');
  await visitor.goto(`${standins()}/site/letters-sign-up?attach=letters-sign-up`);
  await expect.poll(() => arrived('offline@pszczoly.example')).toBe(1);
});

test('names that arrive and are no fields are shown with their values and taken in', async ({ app: page }) => {
  await fetch(`${address()}/in/letters-sign-up`, {
    method: 'POST',
    body: new URLSearchParams({
      vorname: 'Nell',
      nachname: 'Neuland',
      mail: 'nell@biene.example',
      ok: '1',
      stockwaage: '42 kg',
    }),
  });
  const { intakes } = (await (await page.request.get(`${address()}/api/intakes`)).json()) as {
    intakes: { id: string; key: string }[];
  };
  await page.goto(`${address()}/intakes/${intakes.find(({ key }) => key === 'letters-sign-up')!.id}/arrive`);
  const drift = page.getByRole('region', { name: 'What has changed' });
  await expect(drift).toContainText('“stockwaage” arrives and is no field of this intake');
  await expect(drift).toContainText('42 kg');
  await drift.getByRole('button', { name: 'take them in' }).click();
  await expect(page.getByRole('row', { name: /stockwaage/ })).toBeVisible();
  await expect(drift).toHaveCount(0);
});
