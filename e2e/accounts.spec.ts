import { address, expect, faults, test } from './stage.ts';

test('somebody is given access by a link, sets a password, changes it, and loses access', async ({
  app: page,
  browser,
}) => {
  await page.goto(`${address()}/people`);
  await page.getByRole('button', { name: 'Give somebody access' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill('Tobias Underhill');
  await dialog.getByLabel('E-mail address').fill('mara@cloverhollow.example');
  await dialog.getByLabel('Role').selectOption('viewer');
  await dialog.getByRole('button', { name: 'Give access' }).click();
  await expect(dialog.getByText('has access already')).toBeVisible();
  await dialog.getByLabel('E-mail address').fill('tobias@cloverhollow.example');
  await dialog.getByRole('button', { name: 'Give access' }).click();
  await expect(page.getByText('A link for Tobias Underhill')).toBeVisible();
  await dialog.getByRole('button', { name: 'Copy' }).click();
  const link = await page.evaluate<string>('navigator.clipboard.readText()');
  await dialog.getByRole('button', { name: 'Done' }).click();

  const theirs = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await theirs.goto(link);
  await theirs.getByLabel('New password').fill('1234567890');
  await theirs.getByLabel('The same again').fill('1234567890');
  await theirs.getByRole('button', { name: 'Set the password' }).click();
  await expect(theirs.getByText('is one of the first that anybody would try')).toBeVisible();
  await theirs.getByLabel('New password').fill('a field of clover in june');
  await theirs.getByLabel('The same again').fill('a field of clover in may');
  await expect(theirs.getByText('differs from the one above')).toBeVisible();
  await theirs.getByLabel('The same again').fill('a field of clover in june');
  await theirs.getByRole('button', { name: 'Set the password' }).click();
  await theirs.getByRole('link', { name: 'Sign in' }).click();
  await theirs.getByLabel('E-mail address').fill('Tobias@cloverhollow.example');
  await theirs.getByLabel('Password').fill('a field of clover in june');
  await theirs.getByRole('button', { name: 'Sign in' }).click();
  await expect(theirs.getByRole('heading', { name: 'Today' })).toBeVisible();

  await theirs.getByRole('button', { name: 'Signed in as Tobias Underhill' }).click();
  await theirs.getByRole('menuitem', { name: /Change your password/ }).click();
  await theirs.getByLabel('Present password').fill('not this one');
  await theirs.getByLabel('New password').fill('a field of buckwheat in july');
  await theirs.getByRole('button', { name: 'Change it' }).click();
  await expect(theirs.getByText('is not your present password')).toBeVisible();
  await theirs.getByLabel('Present password').fill('a field of clover in june');
  await theirs.getByRole('button', { name: 'Change it' }).click();
  await expect(theirs.getByText('The password is changed.')).toBeVisible();

  await page.reload();
  const row = page.getByRole('row', { name: /tobias@cloverhollow/ });
  await expect(row.getByLabel('Role of Tobias Underhill')).toHaveValue('viewer');
  await row.getByRole('button', { name: 'End access' }).click();
  await expect(row.getByRole('button', { name: 'Give it back' })).toBeVisible();
  await expect(page.getByText('Mara Osterwisch gave access')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Sign-ins, newest first' })).toContainText('Tobias Underhill');
  await theirs.reload();
  await expect(theirs.getByRole('button', { name: 'Sign in' })).toBeVisible();
});

test('an intake whose keys are gone says on Today that it refuses everything, until somebody decides', async ({
  app: page,
}) => {
  const { intakes } = (await (await page.request.get(`${address()}/api/intakes`)).json()) as {
    intakes: { id: string; key: string }[];
  };
  const { id } = intakes.find(({ key }) => key === 'shop-checkout')!;
  await page.goto(`${address()}/intakes/${id}/open`);
  await page.getByRole('button', { name: 'end it' }).click();
  await expect(page.getByText('No key is good any more: everything that arrives is refused.')).toBeVisible();
  await expect(page.getByText('refuses everything: no key is good')).toBeVisible();
  await page.goto(`${address()}/`);
  await expect(page.getByText('Everything is refused: no key for signed events is good any more')).toBeVisible();
  await page.goto(`${address()}/intakes/${id}/open`);
  await page.getByRole('button', { name: 'Take what is not signed' }).click();
  await expect(page.getByText('What arrives need not be signed.')).toBeVisible();
});

test('one that its system answers with nothing but trouble is set aside while it waits, with the system named', async ({
  app: page,
}) => {
  await faults({ system: 'crm', kind: 'fail', share: 1, status: 500 });
  try {
    const sent = await page.request.post(`${address()}/in/pollination-enquiry`, {
      form: { contact_first: 'Elke', contact_last: 'Wartet', contact_email: 'elke.wartet@biene.example', plz: '21614' },
    });
    const { submission } = (await sent.json()) as { submission: string };
    await page.goto(`${address()}/ledger?submission=${submission}`);
    await page.getByRole('button', { name: 'Set aside…' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('textbox').fill('Entered by hand meanwhile');
    await expect(async () => {
      await dialog.getByRole('button', { name: 'Set aside' }).click();
      await expect(page.getByText('Set aside: Entered by hand meanwhile')).toBeVisible({ timeout: 2_000 });
    }).toPass();
  } finally {
    await faults();
  }
});
