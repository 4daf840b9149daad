import { Actions } from './actions.ts';
import { address, expect, standins, test } from './stage.ts';

/** What specialists do forty times a day takes few actions, counted as they are done. */
const EIGHT_FIELDS = `<form id="member" method="post">
  <label>Anrede <select name="anrede"><option value="">Bitte wählen</option><option>Frau</option><option>Herr</option></select></label>
  <label>Vorname <input name="vorname" required></label>
  <label>Nachname <input name="nachname" required></label>
  <label>E-Mail <input name="mail" type="email" required></label>
  <label>Telefon <input name="telefon" type="tel"></label>
  <label>PLZ <input name="plz"></label>
  <label>Ort <input name="ort"></label>
  <label>Geburtsdatum <input name="geboren" type="date"></label></form>`;

test('from a page of eight fields to published: at most 12 actions', async ({ app: page }) => {
  const actions = new Actions(page);
  await actions.click(page.getByRole('link', { name: 'Intakes', exact: true }));
  await expect(page.getByRole('button', { name: 'New intake' })).toBeVisible();
  await actions.press('n');
  await actions.type(page.getByLabel('HTML of the page'), EIGHT_FIELDS);
  await actions.type(page.getByLabel('Name', { exact: true }), 'Eight fields');
  await actions.click(actions.button('Make this intake'));
  await expect(page.getByRole('button', { name: 'Take this plan' })).toBeFocused();
  await actions.press('Enter');
  await expect(page.locator('tr[data-field="last_name"]')).toBeVisible();
  // A made-up sample stands beside the lines at once.
  await expect(page.locator('tr[data-field="last_name"]')).toContainText('Holm');
  await expect(page.getByRole('button', { name: 'Publish version 1' })).toBeEnabled();
  await actions.press('p');
  await expect(page.getByRole('dialog').getByRole('button', { name: 'Publish version 1' })).toBeFocused();
  await actions.press('Enter');
  await expect(page.getByText('Live, version 1')).toBeVisible();
  expect(actions.count).toBeLessThanOrEqual(12);
});

test('the season plan of three records and a link back: at most 25 actions', async ({ app: page }) => {
  const actions = new Actions(page);
  await page.goto(`${address()}/intakes`);
  await expect(page.getByRole('button', { name: 'New intake' })).toBeVisible();
  await actions.press('n');
  await actions.type(page.getByLabel('Address of the page'), `${standins()}/site/season-enquiry`);
  await actions.click(actions.button('Read it'));
  await actions.click(actions.button('Make this intake'));
  await expect(page.getByRole('button', { name: 'Take this plan' })).toBeFocused();
  await actions.press('Enter');
  await actions.click(page.getByRole('list', { name: 'Links proposed' }).getByRole('button', { name: 'link' }).first());
  await actions.click(page.locator('[data-step]', { hasText: 'Enquiry' }));
  const always = async (field: string, fill: () => Promise<void>): Promise<void> => {
    await actions.click(page.getByRole('button', { name: `Fill ${field}` }));
    await actions.click(page.getByRole('option', { name: 'always the same, or computed' }));
    await fill();
    await actions.press('Escape');
  };
  await always('Subject', () => actions.type(page.getByLabel('Always'), 'Season enquiry'));
  await always('Kind', async () => {
    const kind = page.getByLabel('Always');
    await actions.choose(kind, await kind.locator('option').nth(1).getAttribute('value').then(String));
  });
  await actions.click(page.getByRole('link', { name: /^Arrive/ }));
  await actions.choose(page.getByLabel('They dial from'), 'DE');
  await expect(page.getByRole('button', { name: 'Publish version 1' })).toBeEnabled();
  await actions.press('p');
  await expect(page.getByRole('dialog').getByRole('button', { name: 'Publish version 1' })).toBeFocused();
  await actions.press('Enter');
  await expect(page.getByText('Live, version 1')).toBeVisible();
  expect(actions.count).toBeLessThanOrEqual(25);
});

test('twelve refused rows that are alike are mended in at most 6 actions, and a decision takes 1', async ({
  app: page,
}) => {
  const long = 'Langhausen'.repeat(30);
  const send = (mail: string, more: Record<string, string> = {}): Promise<Response> =>
    fetch(`${address()}/in/pollination-enquiry`, {
      method: 'POST',
      headers: { Origin: new URL(standins()).origin },
      body: new URLSearchParams({
        contact_first: 'Zwölf',
        contact_last: 'Gleich',
        contact_email: mail,
        town: 'Hollowbrook',
        ...more,
      }),
    });
  for (let at = 0; at < 12; at += 1) await send(`gleich${at}@pszczoly.example`, { contact_last: long });
  const actions = new Actions(page);
  await actions.click(page.getByRole('link', { name: /Review/ }));
  await page.goto(`${address()}/review?text=gleich`);
  await expect(page.getByRole('list', { name: 'Alike', exact: true }).getByRole('listitem')).toHaveCount(12);
  const last = page.getByRole('textbox', { name: /Last name|Family name/i }).first();
  await expect(last).toBeEnabled();
  await actions.type(last, 'Lang');
  await actions.click(page.getByRole('button', { name: '…and the 11 that hold the same' }));
  await expect(page.getByText('12 were sent again.')).toBeVisible();
  expect(actions.count).toBeLessThanOrEqual(6);

  await page.goto(`${address()}/review?show=decide`);
  const candidate = page.getByRole('button', { name: /^It is/ }).first();
  await expect(candidate).toBeEnabled();
  const deciding = new Actions(page);
  await deciding.press('1');
  await expect(page.getByText(/: it is /)).toBeVisible();
  expect(deciding.count).toBe(1);
});
