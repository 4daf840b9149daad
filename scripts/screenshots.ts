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
const intake = `/intakes/${intakes.find(({ key }) => key === 'pollination-enquiry')!.id}`;

async function take(name: string, path: string, before: () => Promise<unknown> = async () => undefined): Promise<void> {
  await page.goto(address + path);
  await page.waitForLoadState('networkidle');
  await page.waitForTimeout(800);
  await before();
  await page.waitForTimeout(400);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
  console.log(name);
}

await take('today', '/?range=7d');
await take('intakes', '/intakes');
await take('new-intake', '/intakes/new', async () =>
  page.getByLabel('HTML of the page').fill(await (await fetch(`${standins}/site/pollination-enquiry`)).text()),
);
await take('arrive', `${intake}/arrive`);
await take('plan', `${intake}/plan`, async () => {
  await page.locator('tr[data-field="language"]').click();
  await page.getByRole('button', { name: 'Settings of options' }).click();
});
await take('rehearse', `${intake}/rehearse`);
await take('open', `${intake}/open`);
await take('history', `${intake}/history`);
await take('review', '/review');
await take('ledger', '/ledger?state=refused');
await take('changes', '/ledger?by=change');
await take('schema', '/schema?entity=People');
await take('systems', '/systems');
await browser.close();
process.exit(0);
