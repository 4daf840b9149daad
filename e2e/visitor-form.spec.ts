import { AxeBuilder } from '@axe-core/playwright';
import type { Locator, Page } from '@playwright/test';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { address, expect, standins, test } from './stage.ts';
import { formOf, item } from '../core/testing/hosted.ts';
import type { HostedForm } from '../core/forms/hosted/index.ts';

const WIDTHS = [320, 480, 1280];

const asked: HostedForm = formOf([], {
  title: { en: 'Open day at the apiary', de: 'Tag der offenen Bienenstöcke' },
  intro: { en: 'We show two hives to anybody who isn’t afraid of bees.' },
  thanks: { en: 'Thank you. We look forward to your visit.' },
  look: { first: '#2f6146' },
  guard: { trap: true, leastSeconds: 0 },
  pages: [
    {
      id: 'you',
      title: { en: 'About you' },
      items: [
        item('text', 'contact_first', { label: { en: 'Given name' }, required: true, autocomplete: 'given-name' }),
        item('text', 'contact_last', { label: { en: 'Family name' }, required: true, autocomplete: 'family-name' }),
        item('email', 'contact_email', {
          label: { en: 'E-mail' },
          help: { en: 'We write to you once.' },
          required: true,
        }),
        item('yes/no', 'member', { label: { en: 'Are you a member?' } }),
        item('text', 'number', {
          label: { en: 'Member number' },
          required: true,
          shown: { match: 'all', parts: [{ field: 'member', test: 'is', value: 'yes' }] },
        }),
      ],
    },
    {
      id: 'visit',
      title: { en: 'Your visit' },
      items: [
        item('date', 'day', { label: { en: 'On which day?' }, earliest: { from: 'today' } }),
        item('several of', 'sees', {
          label: { en: 'What would you like to see?' },
          options: ['Hives', 'Honey room', 'Garden'].map((each) => ({ value: each, label: { en: each } })),
        }),
        item('group', 'guests', {
          label: { en: 'Who comes along?' },
          mostRows: 3,
          items: [item('text', 'name', { label: { en: 'Name' }, required: true })],
        }),
        item('consent', 'agreed', { label: { en: 'I know that bees sting.' }, required: true }),
      ],
    },
  ],
});

/** A published form, and where it is. Made once, by the API: what is tried here is what visitors meet. */
async function published(page: Page, key: string, allowedOrigins?: string[], form = asked): Promise<string> {
  const api = async (method: 'get' | 'post', path: string, data?: object) =>
    (await (await page.request[method](`${address()}/api${path}`, data ? { data } : {})).json()) as any; // eslint-disable-line @typescript-eslint/no-explicit-any
  const { intakes } = await api('get', '/intakes');
  if (!intakes.some((each: { key: string }) => each.key === key)) {
    const like = intakes.find((each: { key: string }) => each.key === 'pollination-enquiry').id;
    const { draft } = (await api('get', `/intakes/${like}`)).intake;
    const names = new Set(['contact_first', 'contact_last', 'contact_email']);
    for (const step of draft.plan.steps)
      step.lines = step.lines.filter(({ from }: { from: string[] }) => from.every((name) => names.has(name)));
    const document = {
      ...draft,
      ...{ name: 'Open day', source: { kind: 'ours' }, form, fields: [] },
      settings: { ...draft.settings, allowedOrigins: allowedOrigins ?? [] },
    };
    const { intake } = await api('post', '/intakes', { key, document });
    await api('post', `/intakes/${intake.id}/publish`, { revision: 1, accept: true });
  }
  return `${address()}/f/${key}`;
}

/** Goes on with Tab until something has the focus, as somebody without a mouse does. */
async function tabTo(page: Page, wanted: Locator): Promise<void> {
  for (let presses = 0; presses < 30; presses += 1) {
    if (await wanted.evaluate((element) => element.matches(':focus'))) return;
    await page.keyboard.press('Tab');
  }
  throw new Error('Tab never leads there.');
}

async function clean(page: Page): Promise<void> {
  const tags = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];
  const { violations } = await new AxeBuilder({ page }).withTags(tags).analyze();
  expect(
    violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 160)).join(' | ')}`),
  ).toEqual([]);
}

test('is filled in and sent by keyboard alone, at 320 pixels, and arrives once', async ({ app: page }) => {
  const form = await published(page, 'open-day');
  await page.setViewportSize({ width: 320, height: 700 });
  await page.goto(form);
  const key = (...keys: string[]) =>
    keys.reduce((before, each) => before.then(() => page.keyboard.press(each)), Promise.resolve());
  const words = (text: string): Promise<void> => page.keyboard.type(text);
  await page.getByLabel('Given name').focus();
  // Enter where something is missing goes to it, and says what.
  await key('Enter');
  await expect(page.getByRole('alert')).toContainText('3 answers need a look');
  await words('Ada');
  await key('Tab');
  await words('Immen');
  await key('Tab');
  const email = `open-day-${Date.now()}@visit.example`;
  await words(email);
  await key('Tab', 'Space');
  await expect(page.getByLabel('Member number')).toBeVisible();
  await key('Tab');
  await words('17');
  await key('Enter');
  await expect(page.getByRole('heading', { name: 'Your visit' })).toBeFocused();
  await tabTo(page, page.getByLabel('Hives'));
  await key('Space');
  await tabTo(page, page.getByRole('textbox', { name: /^Name/ }));
  await words('Bo');
  await tabTo(page, page.getByRole('button', { name: 'One more' }));
  await key('Enter');
  await expect(page.getByRole('textbox', { name: /^Name/ }).nth(1)).toBeFocused();
  await words('Cleo');
  await tabTo(page, page.getByLabel('I know that bees sting'));
  await key('Space');
  await tabTo(page, page.getByRole('button', { name: 'Send' }));
  await key('Enter');
  await expect(page.getByRole('status')).toContainText('We look forward to your visit');
  const { submissions } = (await (await page.request.get(`${address()}/api/submissions?text=${email}`)).json()) as {
    submissions: { id: string }[];
  };
  expect(submissions).toHaveLength(1);
  const { submission } = (await (
    await page.request.get(`${address()}/api/submissions/${submissions[0]!.id}`)
  ).json()) as { submission: { values: object } };
  expect(submission.values).toEqual({
    ...{
      contact_first: 'Ada',
      contact_last: 'Immen',
      contact_email: email,
      member: 'yes',
      number: '17',
      sees: ['Hives'],
    },
    ...{ 'guests[0][name]': 'Bo', 'guests[1][name]': 'Cleo', agreed: 'yes', agreed_wording: 'I know that bees sting.' },
  });
});

test('axe finds nothing on it, with errors and without, nor on the thanks, at any width', async ({ app: page }) => {
  const form = await published(page, 'open-day');
  for (const width of WIDTHS) {
    await page.setViewportSize({ width, height: 800 });
    await page.goto(form);
    await clean(page);
    await page.getByRole('button', { name: 'Next' }).click();
    await expect(page.getByRole('alert')).toBeVisible();
    await clean(page);
    expect(await page.evaluate('document.documentElement.scrollWidth <= window.innerWidth')).toBe(true);
    await page.goto(`${form}/thanks`);
    await clean(page);
  }
});

test('survives a reload and a lost connection', async ({ app }) => {
  const form = await published(app, 'open-day');
  const page = await app.context().newPage();
  await page.goto(form);
  await page.getByLabel('Given name').fill('Ada');
  await page.reload();
  await expect(page.getByText('What you entered before is here again')).toBeVisible();
  await expect(page.getByLabel('Given name')).toHaveValue('Ada');
  await page.getByLabel('Family name').fill('Immen');
  await page.getByLabel('E-mail').fill('ada-again@visit.example');
  await page.getByRole('button', { name: 'Next' }).click();
  await page.getByLabel('I know that bees sting').check();
  await page.context().setOffline(true);
  await page.getByRole('button', { name: 'Send' }).click();
  await expect(page.getByRole('alert')).toContainText('It could not be sent just now');
  await page.context().setOffline(false);
  await page.getByRole('button', { name: 'Send' }).click();
  await expect(page.getByRole('status')).toBeVisible();
});

test('works without a script: errors, a row more, and sending', async ({ app, browser }) => {
  const form = await published(app, 'open-day');
  const page = await (await browser.newContext({ javaScriptEnabled: false })).newPage();
  await page.setViewportSize({ width: 320, height: 700 });
  await page.goto(form);
  await expect(page.getByLabel('Member number')).toBeVisible();
  await page.getByLabel('Given name').fill('Ada');
  await page.getByLabel('Family name').fill('Immen');
  await page.getByLabel('E-mail').fill('no-script@visit.example');
  await page.getByLabel('Name').last().fill('Bo');
  await page.getByRole('button', { name: 'One more' }).click();
  await expect(page.getByLabel('Given name')).toHaveValue('Ada');
  await expect(page.getByRole('group', { name: 'Row 2' })).toBeVisible();
  await page.getByLabel('Yes').check();
  await page.getByLabel('I know that bees sting').check();
  await page.getByRole('button', { name: 'Send' }).last().click();
  await expect(page.getByRole('alert')).toContainText('One answer needs a look');
  await page.getByLabel('Member number').fill('17');
  await page.getByRole('button', { name: 'Send' }).last().click();
  await expect(page.getByRole('status')).toContainText('We look forward');
  await page.context().close();
});

test('stands in a frame of a page that may show it, grows with it, and says when it was sent; elsewhere it doesn’t show', async ({
  app,
}) => {
  // One page of others, under two origins: one of them is named, the other isn't.
  let around = '';
  const server = createServer((_request, response) => response.setHeader('Content-Type', 'text/html').end(around));
  await new Promise<void>((resolve) => server.listen(0, resolve));
  const { port } = server.address() as AddressInfo;
  const [garden, elsewhere] = [`http://localhost:${port}`, `http://127.0.0.1:${port}`];
  const form = await published(app, 'open-day-embedded', [garden]);
  const page = await app.context().newPage();
  const ours = new URL(form).origin;
  around = `<!doctype html><title>Garden</title><h1>Garden</h1><script src="${ours}/embed.js" data-form="open-day-embedded" data-title="Open day"></script>
    <script>addEventListener('formsent', () => document.body.append('It was sent.'))</script>`;
  await page.goto(garden);
  const frame = page.frameLocator('iframe');
  await frame.getByLabel('Given name').fill('Ada');
  const height = (): Promise<number> => page.locator('iframe').evaluate((element) => element.clientHeight);
  const before = await height();
  await frame.getByRole('button', { name: 'Next' }).click();
  await expect.poll(height).toBeGreaterThan(before);
  await frame.getByLabel('Family name').fill('Immen');
  await frame.getByLabel('E-mail').fill('frame@visit.example');
  await frame.getByRole('button', { name: 'Next' }).click();
  await frame.getByLabel('I know that bees sting').check();
  await frame.getByRole('button', { name: 'Send' }).click();
  await expect(page.getByText('It was sent.')).toBeVisible();
  await expect(frame.getByRole('status')).toBeVisible();
  await page.goto(elsewhere);
  await expect(page.getByRole('heading', { name: 'Garden' })).toBeVisible();
  await expect(page.frameLocator('iframe').getByLabel('Given name')).toHaveCount(0);
  server.closeAllConnections();
  server.close();
});

test('stands in a page of the website, grows with its rows, and doesn’t show where it isn’t allowed', async ({
  app,
}) => {
  await published(app, 'open-day-on-the-site', [new URL(standins()).origin]);
  const page = await app.context().newPage();
  await page.goto(`${standins()}/site/embedded/open-day-on-the-site`);
  const frame = page.frameLocator('iframe');
  await frame.getByLabel('Given name').fill('Telse');
  await frame.getByLabel('Family name').fill('Voss');
  await frame.getByLabel('E-mail').fill('telse@site.example');
  await frame.getByRole('button', { name: 'Next' }).click();
  const height = (): Promise<number> => page.locator('iframe').evaluate((element) => element.clientHeight);
  await expect(frame.getByLabel('I know that bees sting')).toBeVisible();
  const before = await height();
  await frame.getByRole('button', { name: 'One more' }).click();
  await expect.poll(height).toBeGreaterThan(before);
  await frame.getByRole('textbox', { name: /^Name/ }).first().fill('Nell');
  await frame.getByRole('textbox', { name: /^Name/ }).nth(1).fill('Ivo');
  await frame.getByLabel('I know that bees sting').check();
  await frame.getByRole('button', { name: 'Send' }).click();
  await expect(page.getByText('The page knows that it was sent.')).toBeVisible();
  await page.goto(`${standins().replace('localhost', '127.0.0.1')}/site/embedded/open-day-on-the-site`);
  await expect(page.getByText('Fill it in right here.')).toBeVisible();
  await expect(page.frameLocator('iframe').getByLabel('Given name')).toHaveCount(0);
});

test('a picture is sent as it is chosen, is still there after a reload, and goes on; without a script too', async ({
  app,
  browser,
}) => {
  const items = [
    item('text', 'contact_last', { label: { en: 'Family name' }, required: true }),
    item('email', 'contact_email', { label: { en: 'E-mail' }, required: true }),
    item('file', 'photo', { label: { en: 'A photo of the swarm' }, required: true, accepts: ['picture'] }),
  ];
  const form = await published(
    app,
    'with-a-photo',
    undefined,
    formOf(items, { guard: { trap: true, leastSeconds: 0 } }),
  );
  const photo = { name: 'schwärm "1".png', mimeType: 'image/png', buffer: await app.screenshot() };
  const page = await (await browser.newContext({ viewport: { width: 360, height: 740 } })).newPage();
  await page.goto(form);
  await page
    .getByLabel(/^A photo/)
    .setInputFiles({ name: 'a.png', mimeType: 'image/png', buffer: Buffer.from('<svg>') });
  await expect(page.getByText('A file of this sort isn’t taken here.')).toBeVisible();
  await page.getByLabel(/^A photo/).setInputFiles(photo);
  await expect(page.getByText('schwärm "1".png is here.')).toBeVisible();
  await page.getByLabel(/^Family name/).fill('Foto');
  await page.reload();
  await expect(page.getByLabel(/^Family name/)).toHaveValue('Foto');
  await expect(page.getByText('The file you chose is here.')).toBeVisible();
  await clean(page);
  await page.getByLabel(/^E-mail/).fill('foto@visit.example');
  await page.getByRole('button', { name: 'Send' }).last().click();
  await expect(page.getByText('It has arrived.')).toBeVisible();
  await page.context().close();

  const plain = await (await browser.newContext({ javaScriptEnabled: false })).newPage();
  await plain.goto(form);
  await plain.getByLabel(/^Family name/).fill('Plain');
  await plain.getByLabel(/^E-mail/).fill('plain@visit.example');
  await plain.getByLabel(/^A photo/).setInputFiles(photo);
  await plain.getByRole('button', { name: 'Send' }).last().click();
  await expect(plain.getByText('It has arrived.')).toBeVisible();
  await plain.context().close();
  for (const name of ['Foto', 'Plain']) {
    // By its words a submission is found a moment after it came.
    const found = async (): Promise<string | undefined> => {
      const response = await app.request.get(`${address()}/api/submissions?text=${name}`);
      return ((await response.json()) as { submissions: { id: string }[] }).submissions[0]?.id;
    };
    await expect.poll(found, { timeout: 20_000 }).toBeDefined();
    const path = await app.request.get(`${address()}/api/submissions/${await found()}`);
    const { values } = ((await path.json()) as { submission: { values: Record<string, string> } }).submission;
    expect(values['photo_name']).toBe('schwärm "1".png');
    const kept = await app.request.get(`${address()}${new URL(values['photo']!).pathname}`);
    expect((await kept.body()).equals(photo.buffer)).toBe(true);
  }
});
