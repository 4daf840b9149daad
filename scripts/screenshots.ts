import { chromium } from '@playwright/test';

/** `npm run screenshots`: one current picture of each main view in docs/screenshots, from a started Zusammen with its demo. */
const address = process.env['ZUSAMMEN_ADDRESS'] ?? `http://localhost:${process.env['PORT'] ?? 4600}`;
const standins = `http://localhost:${process.env['STANDINS_PORT'] ?? 4610}`;
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
});
const context = await browser.newContext({
  viewport: { width: 1280, height: 800 },
  locale: 'en-GB',
  timezoneId: 'Europe/Berlin',
});
const page = await context.newPage();
await page.goto(`${address}/sign-in`);
await page.getByLabel('E-mail address').fill('mara@cloverhollow.example');
await page.getByLabel('Password').fill('clover-hollow');
await page.getByRole('button', { name: 'Sign in' }).click();
await page.waitForURL(`${address}/`);
const { intakes } = (await (await page.request.get(`${address}/api/intakes`)).json()) as {
  intakes: { id: string; key: string }[];
};
const pathOf = (wanted: string): string => `/intakes/${intakes.find(({ key }) => key === wanted)!.id}`;
const [intake, season] = [pathOf('pollination-enquiry'), pathOf('season-enquiry')];

async function take(name: string, path: string, before: () => Promise<unknown> = async () => undefined): Promise<void> {
  await page.goto(address + path);
  // A page is never done loading while it is told of changes as they happen.
  await page.waitForTimeout(1800);
  await before();
  await page.waitForTimeout(400);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
  console.log(name);
}

await take('today', '/?range=7d');
const { pairings } = (await (await page.request.get(`${address}/api/pairings`)).json()) as {
  pairings: { id: string; state: string }[];
};
await take('pairing', `/pairings/${pairings.find(({ state }) => state === 'running')!.id}`, async () => {
  await page.getByText('Interests', { exact: true }).first().click();
  await page.getByText('what would happen').waitFor();
  await page.waitForTimeout(1500);
});
await take('arrive', `${intake}/arrive`);
await take('form', `${pathOf('contract-change')}/arrive`, async () =>
  page.getByRole('button', { name: /^Which organisation/ }).click(),
);
await take('visitor', '/f/contract-change', async () => {
  await page.setViewportSize({ width: 480, height: 800 });
  await page.getByRole('combobox', { name: /^Which organisation/ }).pressSequentially('obst');
  await page.getByRole('option').first().waitFor();
});
await page.setViewportSize({ width: 1280, height: 800 });
await take('plan', `${intake}/plan`, async () => {
  await page.locator('tr[data-field="language"]').click();
  await page.getByRole('button', { name: 'Settings of options' }).click();
});
await take('rehearse', `${season}/rehearse`);
await take('conversion', `${pathOf('enquiry-to-contract')}/open`, async () => {
  const many = page.locator('section', { has: page.getByRole('heading', { name: 'Many at once' }) });
  await many.getByRole('button', { name: 'Add a comparison' }).click();
  await many.getByLabel('Field').selectOption('source');
  await many.getByLabel('Value').fill('telephone');
  await many.getByRole('button', { name: 'Count them' }).click();
  await many.getByText(/meets? it/).waitFor();
  const convert = many.getByRole('button', { name: /^Convert/ });
  if (await convert.isEnabled()) await convert.click();
  await many.getByText('done').first().waitFor();
});
await take('review', '/review?show=decide', async () => {
  // What is unsure shows what the evidence says.
  await page
    .getByRole('button', { name: /it may be/ })
    .first()
    .click();
  await page.waitForTimeout(1200);
});
await take('ledger', `/ledger?intake=${season.split('/').at(-1)}&state=applied`);
await take('schema', '/schema?entity=People', async () =>
  page.getByRole('button', { name: 'Reach of E-mail' }).click(),
);
await take('entity', '/schema/new', async () => {
  await page.getByLabel('A sheet').setInputFiles('demo/files/apiaries.xlsx');
  await page.getByRole('button', { name: 'make it a reference' }).click();
  await page.getByText('398 found').waitFor();
});
const { systems } = (await (await page.request.get(`${address}/api/systems`)).json()) as {
  systems: { id: string; kind: string }[];
};
const people = `system=${systems[0]!.id}&entity=People`;
const [crm, mailing] = ['odata', 'json'].map((kind) => systems.find((each) => each.kind === kind)!.id);
// A field as a specialist has it after the first minute.
const housing = ['Frame hive', 'Top-bar', 'Log hive', 'Skep'].map((kind) => ({ value: kind, label: kind }));
const draft = {
  field: { label: 'Housing', type: 'options', options: housing, help: 'What their bees live in' },
  places: [
    ...['Enquiries', 'People', 'Contracts'].map((entity) => ({ system: crm, entity })),
    { system: mailing, entity: 'subscribers' },
  ],
  lines: [],
};
await page.evaluate(`localStorage.setItem('one field', ${JSON.stringify(JSON.stringify(draft))})`);
await take('field', '/schema/field');
await page.evaluate("localStorage.removeItem('one field')");
await take('options', `/schema/options?of=${crm}~People~interests&of=${mailing}~subscribers~interests`, async () => {
  await page.getByRole('button', { name: 'Add Swarms to Interests of Subscriber' }).click();
  await page.getByRole('button', { name: /^Spell hiring hives as Pollination/ }).click();
  await page.getByText('What it comes to').waitFor();
});
await take('recognition', `/schema/recognition?${people}`);
await take('doubles', `/schema/doubles?${people}`, async () => {
  const look = page.getByRole('button', { name: /Look for doubles|Look again/ });
  await look.click();
  await page.getByRole('list', { name: 'Groups' }).waitFor({ timeout: 60_000 });
  await page.waitForTimeout(1500);
});
await take('systems', '/systems');
const letters = systems.find(({ kind }) => kind === 'json')!.id;
await take('adapter', `/systems/${letters}/adapter`, async () => {
  await page.getByRole('button', { name: /^Try all/ }).click();
  await page.getByRole('button', { name: /^Try all \d+ again/ }).waitFor();
  await page.getByLabel('What it answered').waitFor();
  await page.waitForTimeout(2_000);
});
// A panel on a record's page of the CRM, as the inspector sees it.
await page.goto(`${standins}/crm/sign-in`);
await page.getByLabel('Login').fill('inspector');
await page.getByLabel('Password').fill('clover-hollow');
await page.getByRole('button', { name: 'Sign in' }).click();
const person = (await (
  await page.request.get(`${standins}/crm/odata/People?$top=1&$filter=city ne null and phone ne null&$select=id`, {
    headers: { Authorization: 'Bearer demo-administrator' },
  })
).json()) as { value: { id: string }[] };
await page.goto(`${standins}/crm/People/${person.value[0]!.id}`);
const panel = page.getByRole('region', { name: 'Panel' });
await panel.frameLocator('iframe').getByText('You act here as').waitFor();
const { y } = (await panel.boundingBox())!;
await page.mouse.wheel(0, y - 190);
await page.waitForTimeout(1200);
await page.screenshot({ path: 'docs/screenshots/panel.png' });
console.log('panel');
await browser.close();
process.exit(0);
