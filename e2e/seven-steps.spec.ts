import { address, expect, pick, standins, test } from './stage.ts';

/** The thinnest slice, whole, as a specialist goes through it. The steps build on one another. */
test('from a page’s form to a record in the CRM, sent again, and taken back', async ({ app: page, context }) => {
  await test.step('Today is seen, the CRM’s schema stands as read, and it can be connected anew', async () => {
    await expect(page.getByText('Applied within')).toBeVisible();
    await page.getByRole('link', { name: 'Systems' }).click();
    await expect(page.getByText('14 fields are hidden from this connection.')).toBeVisible();
    await page.getByRole('button', { name: 'Connect a system' }).click();
    await page.getByLabel('Name').fill('CRM again');
    await page.getByLabel('Address', { exact: true }).fill(`${standins()}/crm/odata/`);
    await page.getByLabel('Token').fill('wrong');
    await page.getByRole('button', { name: 'Read and connect' }).click();
    await expect(page.getByText('It does not accept this token.')).toBeVisible();
    await page.getByLabel('Token').fill('demo-integration');
    await page.getByRole('button', { name: 'Read and connect' }).click();
    await expect(page.getByRole('heading', { name: 'CRM again' })).toBeVisible();
    await page.getByRole('link', { name: 'Person', exact: true }).click();
    await expect(page.getByRole('heading', { name: 'Person' })).toBeVisible();
    await expect(page.getByRole('row', { name: /Family name/ })).toContainText('required');
    await page.goto(`${address()}/systems`);
    await page.getByRole('row', { name: /CRM again/ }).click();
    await page.getByRole('button', { name: 'Change…' }).click();
    await page.getByRole('button', { name: 'Disconnect…' }).click();
    await page.getByRole('button', { name: 'Disconnect CRM again' }).click();
    await expect(page.getByText('CRM again')).toHaveCount(0);
  });

  await test.step('a new intake is made from the page’s HTML', async () => {
    const html = await (await fetch(`${standins()}/site/pollination-enquiry`)).text();
    await page.getByRole('link', { name: 'Intakes', exact: true }).click();
    await page.getByRole('button', { name: 'New intake' }).click();
    await page.getByLabel('HTML of the page').fill(html);
    await expect(page.getByText('18 fields found')).toBeVisible();
    await expect(page.getByRole('row', { name: /Last name/ })).toContainText('required');
    await expect(page.getByRole('row', { name: /We write to you in/ })).toContainText('English, Deutsch, Polski');
    await page.getByLabel('Name', { exact: true }).fill('Bees wanted');
    await page.getByLabel('Key in its address').fill('bees-wanted');
    await page.getByRole('button', { name: 'Make this intake' }).click();
  });

  await test.step('its one step is a Person, recognised by e-mail, and lines suggest themselves', async () => {
    await pick(page, 'Find an entity', 'person');
    await expect(page.getByRole('button', { name: 'Which record' })).toHaveText('E-mail');
    await expect(page.getByRole('button', { name: 'When none is found' })).toHaveText('Create it');
    await expect(page.getByRole('button', { name: 'When one is found' })).toHaveText('Update it');
    await expect(page.getByRole('button', { name: 'When several are found' })).toHaveText('Ask in Review');
    await expect(page.locator('tr[data-field="first_name"]')).toContainText('First name');
  });

  await test.step('a line is corrected, two inputs joined, options paired, a phone’s country set', async () => {
    // A sample shows what each line makes of it.
    await page.getByRole('link', { name: /^Rehearse/ }).click();
    await page.getByRole('button', { name: 'Add a sample' }).click();
    await page.getByRole('radio', { name: 'Paste what is sent' }).click();
    await page
      .getByLabel('What a form sends')
      .fill(
        '{"contact_first": " Wiebke ", "contact_last": "Quast", "contact_email": "wiebke.q@wabe.example", "contact_phone": "030 23125 444", "street": "Am Deich", "house_no": "14a", "lang": "german"}',
      );
    await page.getByRole('button', { name: 'Keep this sample' }).click();
    await expect(page.getByRole('button', { name: 'Wiebke Quast' })).toBeVisible();
    await page.getByRole('link', { name: /^Plan/ }).click();

    const phone = page.locator('tr[data-field="phone"]');
    await expect(phone).toContainText('no country is set');
    await phone.click();
    await page.getByRole('button', { name: 'Settings of phone' }).click();
    await page.getByLabel('Numbers without a country code are dialled from').selectOption('DE');
    await page.keyboard.press('Escape');
    await expect(phone).toContainText('+493023125444');
    await page.getByRole('button', { name: 'Done' }).click();

    const street = page.locator('tr[data-field="street"]');
    if ((await street.count()) === 0) {
      await page.getByRole('button', { name: 'Use Street' }).click();
      await pick(page, 'Where does Street go?', 'street');
    }
    await expect(street).toContainText('Am Deich 14a');

    if ((await page.locator('tr[data-field="language"]').count()) === 0) {
      await page.getByRole('button', { name: 'Use We write to you in' }).click();
      await pick(page, 'Where does We write to you in go?', 'language');
    }
    const language = page.locator('tr[data-field="language"]');
    await language.click();
    await page.getByRole('button', { name: 'Settings of options' }).click();
    // The likely pairs are there already; one that isn't paired is a check, not a silent loss.
    await page.getByLabel('Deutsch becomes').selectOption('not paired');
    await page.keyboard.press('Escape');
    await expect(language).toContainText('options, 2 of 3 paired');
    await expect(
      page.getByRole('region', { name: 'Checks' }).getByText('“Deutsch” has no counterpart in the list.'),
    ).toBeVisible();
    await page.getByRole('button', { name: 'Settings of options' }).click();
    await page.getByLabel('Deutsch becomes').selectOption('German');
    await page.keyboard.press('Escape');
    await expect(language).toContainText('options, 3 of 3 paired');
    await page.getByRole('button', { name: 'Done' }).click();

    // Undone and done again.
    await page.keyboard.press('Control+z');
    await expect(language).toContainText('2 of 3');
    await page.keyboard.press('Control+y');
    await expect(language).toContainText('3 of 3');
    // Pasted HTML names no page, so any may send: said once, and accepted at publishing.
    await expect(page.getByText('One check to settle')).toBeVisible();
    await expect(page.getByText('Any page may send here: no origins are set.')).toBeVisible();
  });

  await test.step('the rehearsal shows what would be written, field by field', async () => {
    await page.keyboard.press('r');
    await expect(page.getByText('1 of 1 sample comes out well')).toBeVisible();
    await expect(page.getByRole('row', { name: /Phone.*\+493023125444/ })).toBeVisible();
  });

  await test.step('version 1 is published and the page’s form posts to it', async () => {
    await page.getByRole('button', { name: 'Publish version 1' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Publish version 1' }).click();
    await expect(page.getByText('Live, version 1')).toBeVisible();
    const target = await page.getByTestId('address').first().textContent();
    expect(target).toBe(`${address()}/in/bees-wanted`);
    const site = await context.newPage();
    await site.goto(`${standins()}/site/`);
    const row = site.getByRole('row', { name: /Bees for your blossom/ });
    await row.getByLabel('Sends to').fill(target!);
    await row.getByRole('button', { name: 'Set' }).click();
    // The answer is waited for; a page closed in the middle of it can keep the browser from closing it at all.
    await site.waitForLoadState('networkidle');
    await expect(row.getByLabel('Sends to')).toHaveValue(target!);
  });

  const visitor = await context.newPage();
  const send = async (phone: string): Promise<void> => {
    await visitor.goto(`${standins()}/site/pollination-enquiry`);
    await visitor.getByLabel('First name').fill('Wiebke');
    await visitor.getByLabel('Last name').fill('Quast');
    await visitor.getByLabel('E-mail').fill('Wiebke.Q@wabe.example');
    await visitor.getByLabel('Telephone').fill(phone);
    await visitor.getByRole('button', { name: 'Ask for bees' }).click();
    await expect(visitor.getByRole('heading', { name: 'Thank you' })).toBeVisible();
  };
  const crmPhone = async (): Promise<string | null> => {
    const query = `$filter=${encodeURIComponent("tolower(email) eq 'wiebke.q@wabe.example'")}`;
    const response = await fetch(`${standins()}/crm/odata/People?${query}`, {
      headers: { Authorization: 'Bearer demo-administrator' },
    });
    const { value } = (await response.json()) as { value: { phone: string }[] };
    expect(value).toHaveLength(1);
    return value[0]!.phone;
  };

  await test.step('the form is sent in a browser, arrives in History, and its record opens in the CRM', async () => {
    await page.getByRole('link', { name: /^History/ }).click();
    await expect(page.getByText('Nothing has arrived yet')).toBeVisible();
    await send('030 23125 444');
    await expect(page.getByRole('button', { name: 'Wiebke Quast' })).toBeVisible({ timeout: 2_000 });
    await expect(page.getByRole('heading', { name: /Person/ })).toContainText('new');
    await expect(page.getByRole('row', { name: /Telephone.*030 23125 444.*Phone.*\+493023125444/ })).toBeVisible();
    const [record] = await Promise.all([
      context.waitForEvent('page'),
      page.getByRole('link', { name: /in Co-op CRM/ }).click(),
    ]);
    await expect(record.getByRole('heading', { name: 'Wiebke Quast' })).toBeVisible();
    await expect(record.locator('[data-field="phone"]')).toHaveText('+493023125444');
  });

  await test.step('sent again with another phone it updates, and that change is taken back', async () => {
    await send('030 23125 445');
    await expect(page.getByRole('button', { name: 'Wiebke Quast' })).toHaveCount(2);
    expect(await crmPhone()).toBe('+493023125445');
    await page.getByRole('button', { name: 'Wiebke Quast' }).first().click();
    await expect(page.getByText('known, by E-mail')).toBeVisible();
    await expect(page.getByRole('row', { name: /\+493023125444.*\+493023125445/ })).toBeVisible();
    await page.getByRole('article').getByRole('button', { name: 'Take back' }).first().click();
    await expect(page.getByRole('article').getByText('The former values are back.')).toBeVisible();
    await expect(page.getByRole('article').locator('header')).toContainText('taken back');
    expect(await crmPhone()).toBe('+493023125444');
  });
});
