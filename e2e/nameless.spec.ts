import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { address, expect, standins, test } from './stage.ts';

/** A page whose own script sends its values: no input of it has a name, and a browser would send nothing. */
const FORM = `<h2>Contact us</h2>
  <form id="contact">
    <label>First name<input required></label>
    <label>Last name</label><input>
    <input id="mail" type="email" placeholder="E-mail address">
    <label><input type="checkbox" value="yes"> Send me your newsletter</label>
    <button>Send</button>
  </form>`;

let server: Server;
let base: string;
let key = '';

test.beforeAll(async () => {
  server = createServer((_, response) => {
    response.setHeader('Content-Type', 'text/html; charset=utf-8');
    response.end(`<!doctype html>${FORM}
      <script>document.getElementById('contact').addEventListener('submit', (event) => { event.preventDefault(); document.title = 'thanks'; });</script>
      <script src="${address()}/attach.js" data-intake="${key}" data-form='[id="contact"]' defer></script>`);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
test.afterAll(() => void server.close());

test('a form without names is brought in, attached and received', async ({ app: page, context }) => {
  await page.goto(`${address()}/intakes/new`);
  await page.getByLabel('Or the HTML of the page').fill(FORM);
  await expect(page.getByText('4 fields found')).toBeVisible();
  await expect(page.getByText(/None of these has a name on the page/)).toBeVisible();
  await expect(page.getByText('sent by script only')).toHaveCount(4);
  await page.getByLabel('Name', { exact: true }).fill('Script page');
  await page.getByRole('button', { name: 'Make this intake' }).click();
  await page.getByRole('option', { name: /^Person (\d|to look)/ }).click();
  await expect(page.locator('tr[data-field="email"]')).toContainText('E-mail address');
  // What a visitor agrees to is offered with its wording and never taken as given.
  await expect(page.getByText('consent to “Send me your newsletter”').first()).toBeVisible();
  await page.getByRole('button', { name: 'Publish version 1' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Publish version 1' }).click();
  await expect(page.getByText('Live, version 1')).toBeVisible();

  await page.getByRole('link', { name: /^Open/ }).click();
  await expect(page.getByText(/posting straight can’t work/)).toBeVisible();
  await expect(page.getByText('<form method="post"')).toHaveCount(0);
  const line = await page.getByText('data-intake=').first().innerText();
  expect(line).toContain(`data-form='form[name="contact"], form[id="contact"]`);
  key = /data-intake="([^"]+)"/.exec(line)![1]!;

  const visitor = await context.newPage();
  await visitor.goto(base);
  await visitor.getByLabel('First name').fill('Zuzanna');
  await visitor.locator('input').nth(1).fill('Bezimienna');
  await visitor.getByPlaceholder('E-mail address').fill('zuzanna@bezimienna.example');
  const sent = visitor.waitForRequest((request) => request.url().includes(`/in/${key}`));
  await visitor.getByRole('button', { name: 'Send' }).click();
  expect([...new URLSearchParams((await sent).postData()!).keys()].slice(0, 3)).toEqual([
    'first-name',
    'last-name',
    'mail',
  ]);
  await expect(visitor).toHaveTitle('thanks');
  await expect
    .poll(async () => {
      const filter = encodeURIComponent("email eq 'zuzanna@bezimienna.example'");
      const answer = await fetch(`${standins()}/crm/odata/People?$filter=${filter}`, {
        headers: { Authorization: 'Bearer demo-administrator' },
      });
      return ((await answer.json()) as { value: unknown[] }).value;
    })
    .toMatchObject([{ first_name: 'Zuzanna', last_name: 'Bezimienna' }]);
});
