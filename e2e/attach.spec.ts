import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { expect, test } from '@playwright/test';
import { attachLine } from '../web/src/pages/intake/open/attach-line.ts';
import { address } from './stage.ts';

/** Pages of others, as they are built today: what `attach.js` copies of them, and that it changes nothing about them. */
let server: Server;
let base: string;
const KEY = 'letters-sign-up';
const script = (more = '') => `<script src="${address()}/attach.js" data-intake="${KEY}" ${more}></script>`;
const INPUTS = '<input name="mail" value="x@biene.example"><input name="name" value="Quirin">';

/** The address is known once the tests have begun. */
const pages = (): Record<string, string> => ({
  'submit-called': `<form id="f" action="/taken">${INPUTS}</form><button onclick="document.getElementById('f').submit()">Send</button>${script('defer')}`,
  'stopped-and-called': `<form id="f" action="/taken">${INPUTS}<button name="go" value="1">Send</button></form>
    <script>document.getElementById('f').addEventListener('submit', (event) => { event.preventDefault(); HTMLFormElement.prototype.submit.call(event.target); });</script>${script('defer')}`,
  'own-fetch': `<form id="f">${INPUTS}<button type="button" id="send"><b>Send</b></button></form>
    <script>document.getElementById('send').addEventListener('click', () => fetch('/taken', { method: 'POST' }).then(() => { document.title = 'done'; }));</script>${script('defer data-button="#send"')}`,
  shadow: `<my-form></my-form><script>
    setTimeout(() => { const root = document.querySelector('my-form').attachShadow({ mode: 'open' });
      root.innerHTML = '<form action="/taken">${INPUTS}<button>Send</button></form>'; }, 100);</script>${script('defer')}`,
  module: `<form action="/taken">${INPUTS}<button>Send</button></form><script type="module" src="ADDRESS/attach.js" data-intake="${KEY}"></script>`,
  'odd-names': `<form action="/taken">${INPUTS}<input name="checkValidity" value="a"><input name="elements" value="b"><input name="noValidate" value=""><button name="submit" value="c">Send</button></form>${script('defer')}`,
});
const NAMES = ['submit-called', 'stopped-and-called', 'own-fetch', 'shadow', 'module', 'odd-names'];

test.beforeAll(async () => {
  server = createServer((request, response) => {
    const page = pages()[(request.url ?? '').slice(1).split('?')[0]!];
    response.setHeader('Content-Type', 'text/html');
    if (request.url?.startsWith('/fenced')) {
      response.setHeader('Content-Security-Policy', `connect-src 'self'; script-src ${address()}`);
      return response.end(`<form action="/taken">${INPUTS}<button>Send</button></form>${script('defer')}`);
    }
    response.end(page?.replace('ADDRESS', address()) ?? '<title>taken</title>Taken');
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
test.afterAll(() => void server.close());

test('the line that is offered finds the form, whatever that is called, and no input of its name', async ({ page }) => {
  for (const name of [
    'contact',
    'it’s "ours"',
    "o'clock",
    'a\\b\\',
    "x' onload='alert(1)",
    'two\nlines',
    '&quot;',
    '</script>',
  ])
    for (const by of ['id', 'name', 'aria-label']) {
      await page.setContent('<input><form><input name="mail"></form>');
      await page.locator('form').evaluate((form, [by, name]) => form.setAttribute(by!, name!), [by, name]);
      await page.locator('body > input').evaluate((input, name) => input.setAttribute('name', name), name);
      const found = await page.locator('html').evaluate(
        ({ ownerDocument: document }, line) => {
          const template = document.createElement('template');
          template.innerHTML = line;
          const [script, ...more] = template.content.children;
          return more.length === 0 && document.querySelector(script!.getAttribute('data-form')!) === document.forms[0];
        },
        attachLine(address(), 'visit', name),
      );
      expect([by, name, found]).toEqual([by, name, true]);
    }
});

for (const name of NAMES)
  test(`copies a form once: ${name}`, async ({ page }) => {
    const copies: string[] = [];
    page.on('request', (request) => {
      if (request.method() === 'POST' && request.url().includes(`/in/${KEY}`)) copies.push(request.postData() ?? '');
    });
    const errors: Error[] = [];
    page.on('pageerror', (error) => errors.push(error));
    await page.goto(`${base}/${name}`);
    const sent = page.waitForRequest((request) => request.url().includes(`/in/${KEY}`));
    await page.getByRole('button', { name: 'Send' }).click();
    await sent;
    await expect(page).toHaveTitle(name === 'own-fetch' ? 'done' : 'taken');
    expect(copies.length).toBe(1);
    expect(new URLSearchParams(copies[0]).get('name')).toBe('Quirin');
    expect(errors).toEqual([]);
  });

test('a page whose own rules hold the copy back is told so in the console, and goes on', async ({ page }) => {
  const said: string[] = [];
  page.on('console', (message) => said.push(message.text()));
  await page.goto(`${base}/fenced`);
  await page.getByRole('button', { name: 'Send' }).click();
  await expect(page).toHaveTitle('taken');
  expect(said.join('\n')).toMatch(/attach\.js: the page's Content-Security-Policy/);
});
