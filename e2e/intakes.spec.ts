import type { Page } from '@playwright/test';
import { address, expect, faults, pick, test } from './stage.ts';

/** What a specialist does with an intake after its first version. */
const HTML = `<form id="swarm" method="post"><label>Who <input name="who" required></label>
  <label>E-mail <input name="mail" type="email" required></label>
  <label>Phone <input name="tel" type="tel"></label><label>Height <input name="height"></label></form>`;

/** Makes an intake of a small form and opens its plan for people. */
async function make(page: Page, key: string): Promise<string> {
  await page.goto(`${address()}/intakes/new`);
  await page.getByLabel('HTML of the page').fill(HTML);
  await page.getByLabel('Name', { exact: true }).fill(`Swarm ${key}`);
  await page.getByLabel('Key in its address').fill(key);
  await page.getByRole('button', { name: 'Make this intake' }).click();
  await pick(page, 'Find an entity', 'person');
  await expect(page.locator('tr[data-field="email"]')).toBeVisible();
  return new URL(page.url()).pathname.replace(/\/plan$/, '');
}

const useFor = async (page: Page, source: string, field: string): Promise<void> => {
  await page.getByRole('button', { name: `Use ${source}` }).click();
  await pick(page, `Where does ${source} go?`, field);
};

test('a needed field that nothing fills stops publishing, and the check goes when it is filled', async ({
  app: page,
}) => {
  await make(page, 'needed');
  await expect(page.getByText('Family name is required for a new Person, and no line fills it.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Publish version 1' })).toBeDisabled();
  await useFor(page, 'Who', 'family');
  await expect(page.locator('tr[data-field="last_name"]')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Publish version 1' })).toBeEnabled();
});

test('a plan is edited by keyboard alone, and what was done is undone', async ({ app: page }) => {
  await make(page, 'keys');
  const rows = page.locator('tr[data-field]');
  const before = await rows.count();
  await page.locator('body').press('j');
  await page.keyboard.press('x');
  await expect(rows).toHaveCount(before - 1);
  await page.keyboard.press('Control+z');
  await expect(rows).toHaveCount(before);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Done' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Done' })).toHaveCount(0);
  await page.keyboard.press('s');
  await expect(page.getByText(/suggested\.|suggests itself/)).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
});

test('changes are kept by themselves and are there after loading again', async ({ app: page }) => {
  const intake = await make(page, 'kept');
  await page.getByRole('button', { name: 'When one is found' }).click();
  await page.getByRole('option', { name: 'Leave it as it is' }).click();
  // Left at once: what isn't saved yet is saved on the way out.
  await page.getByRole('link', { name: 'Today', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Today' })).toBeVisible();
  await expect
    .poll(
      async () =>
        (
          (await (await page.request.get(`${address()}/api${intake}`)).json()) as {
            intake: { draft: { plan: { steps: { whenOne: string }[] } } };
          }
        ).intake.draft.plan.steps[0]?.whenOne,
    )
    .toBe('leave');
  await page.goto(`${address()}${intake}/plan`);
  await expect(page.getByRole('button', { name: 'When one is found' })).toHaveText('Leave it as it is');
});

test('two who edit one draft are told of each other; nothing is overwritten', async ({ app: page, browser }) => {
  const intake = await make(page, 'two');
  await expect(page.getByText('Saving…')).toHaveCount(0);
  const context = await browser.newContext();
  const other = await context.newPage();
  await other.goto(`${address()}/sign-in?to=${intake}/plan`);
  await other.getByLabel('E-mail address').fill('idris@cloverhollow.example');
  await other.getByLabel('Password').fill('clover-hollow');
  await other.getByRole('button', { name: 'Sign in' }).click();
  const saved = other.waitForResponse(
    (response) => response.request().method() === 'PUT' && response.url().endsWith('/draft'),
  );
  await other.getByRole('button', { name: 'When none is found' }).click();
  await other.getByRole('option', { name: 'Ask in Review' }).click();
  await saved;
  await page.getByRole('button', { name: 'When one is found' }).click();
  await page.getByRole('option', { name: 'Leave it as it is' }).click();
  await expect(page.getByText('Somebody else changed this draft.')).toBeVisible();
  await page.evaluate('window.onbeforeunload = null');
  page.on('dialog', (dialog) => void dialog.accept());
  await page.getByRole('button', { name: 'Load theirs' }).click();
  await expect(page.getByRole('button', { name: 'When none is found' })).toHaveText('Ask in Review');
  await context.close();
});

test('the page’s form is read again, and what is new, changed and gone is said before it is taken in', async ({
  app: page,
}) => {
  const intake = await make(page, 'again');
  await page.goto(`${address()}${intake}/arrive`);
  await page.getByRole('button', { name: 'Read the page again' }).click();
  await page
    .getByRole('dialog')
    .getByLabel('HTML of the page')
    .fill(
      HTML.replace('<label>Height <input name="height"></label>', '<label>Place <input name="place"></label>').replace(
        'Phone',
        'Telephone',
      ),
    );
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('listitem')).toHaveText([
    '“Phone” is now called “Telephone”',
    'Height is no longer on the page',
    'Place is new on the page',
  ]);
  await dialog.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByRole('row', { name: /Place/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /Height/ })).toHaveCount(0);
});

test('versions are published, an older one goes live again, and a closed intake turns visitors away', async ({
  app: page,
}) => {
  const intake = await make(page, 'versions');
  await useFor(page, 'Who', 'family');
  const publish = async (version: number): Promise<void> => {
    await page.getByRole('button', { name: `Publish version ${version}` }).click();
    await page
      .getByRole('dialog')
      .getByRole('button', { name: `Publish version ${version}` })
      .click();
    await expect(page.getByText(`Live, version ${version}`)).toBeVisible();
  };
  await publish(1);
  await page.goto(`${address()}${intake}/plan`);
  await page.getByRole('button', { name: 'When one is found' }).click();
  await page.getByRole('option', { name: 'Leave it as it is' }).click();
  await expect(page.getByText('Draft differs from live')).toBeVisible();
  await publish(2);
  await page.getByRole('row', { name: /^1 / }).getByRole('button', { name: 'Go live with it' }).click();
  await expect(page.getByText('Live, version 1')).toBeVisible();
  const post = () =>
    fetch(`${address()}/in/versions`, {
      method: 'POST',
      body: new URLSearchParams({ who: 'Heron', mail: 'heron@biene.example' }),
    });
  expect((await post()).status).toBe(202);
  await page.getByRole('button', { name: 'Close it for submissions' }).click();
  await expect(page.getByText('Closed', { exact: true })).toBeVisible();
  expect((await post()).status).toBe(410);
  await page.getByRole('button', { name: 'Open it again' }).click();
  await expect(page.getByText('Live, version 1')).toBeVisible();
});

test('a submission that the CRM refuses is seen with its words, set aside, and found again', async ({ app: page }) => {
  await fetch(`${address()}/in/pollination-enquiry`, {
    method: 'POST',
    body: new URLSearchParams({
      contact_first: 'Nobody',
      contact_email: 'nobody@biene.example',
      orchard: 'Windfall Orchard',
    }),
  });
  await page.goto(`${address()}/ledger?text=Windfall`);
  await expect(page.getByRole('article').getByText('Family name is required.').first()).toBeVisible();
  await page.getByRole('button', { name: 'Set aside…' }).click();
  await page.getByLabel('Reason').fill('A test by hand');
  await page.getByRole('dialog').getByRole('button', { name: 'Set aside' }).click();
  await expect(page.getByText('Set aside: A test by hand')).toBeVisible();
  await page.getByRole('button', { name: 'Carry out again' }).click();
  await expect(page.getByRole('article').locator('header')).toContainText('refused');
});

test('a system that stops answering is seen as such, and its submissions go on when it answers again', async ({
  app: page,
}) => {
  await faults({ system: 'crm', kind: 'fail', share: 1 });
  await fetch(`${address()}/in/pollination-enquiry`, {
    method: 'POST',
    body: new URLSearchParams({
      contact_last: 'Patience',
      contact_email: 'patience@biene.example',
      orchard: 'Patient Orchard',
    }),
  });
  await page.goto(`${address()}/ledger?text=Patient`);
  await expect(page.getByText(/it goes on by itself/)).toBeVisible();
  await page.goto(`${address()}/systems`);
  await expect(page.getByText('in trouble').first()).toBeVisible({ timeout: 15_000 });
  await faults();
  await page.goto(`${address()}/ledger?text=Patient`);
  await expect(page.getByRole('article').locator('header')).toContainText('applied', { timeout: 30_000 });
});
