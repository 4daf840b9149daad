import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { Actions } from './actions.ts';
import { address, expect, standins, test } from './stage.ts';

/** Forms of ours: begun with a starting point, asked for field by field, and reading what the systems keep. */

async function clean(page: Page): Promise<void> {
  const tags = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];
  const { violations } = await new AxeBuilder({ page }).withTags(tags).analyze();
  expect(
    violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 160)).join(' | ')}`),
  ).toEqual([]);
}

const crm = async (page: Page, path: string) =>
  (await (
    await page.request.get(`${standins()}/crm/odata/${path}`, { headers: { Authorization: 'Bearer demo-integration' } })
  ).json()) as Record<string, string> & { value: Record<string, string>[] };

test('a starting point is seen as it would be here, taken, asked for more, and filled in as a draft', async ({
  app: page,
}) => {
  await page.goto(`${address()}/intakes/new`);
  await page.getByRole('radio', { name: 'a form of ours' }).click();
  await page.getByRole('radio', { name: /^Membership renewal/ }).check();
  const preview = page.getByLabel('The form and its plan');
  // The CRM's own fields, in the form and in the plan, before anything is made.
  await expect(preview.getByText('Family name ← Family name')).toBeVisible();
  await expect(preview.getByText('Recognised by E-mail.')).toBeVisible();
  await page.getByLabel('Name', { exact: true }).fill('Renewal at the desk');
  await page.getByRole('button', { name: 'Make this intake' }).click();
  await expect(page.getByRole('heading', { name: 'Renewal at the desk', level: 1 })).toBeVisible();
  await clean(page);

  // Ticking asks and maps in one; the control and its options are the field's.
  const questions = page.getByRole('list', { name: 'Questions' });
  const person = page.getByRole('region', { name: 'Person' });
  await person.getByRole('button', { name: /^and \d+ more$/ }).click();
  await person.getByRole('checkbox', { name: 'Ask for Salutation' }).check();
  await person.getByRole('checkbox', { name: 'Ask for Mobile' }).check();
  const salutation = questions.locator('[data-question="salutation"]');
  await expect(salutation).toContainText('Fills');
  await expect(salutation).toContainText('3 options');
  const mobile = questions.locator('[data-question="mobile"]');
  await expect(mobile).toHaveAttribute('aria-current', 'true');

  // Its words are edited where they stand; it is shown when another answer says so.
  await page.getByRole('heading', { name: 'Ask for' }).click();
  await page.keyboard.press('Enter');
  await page.getByLabel('Its words in English').fill('Mobile phone');
  await page.getByLabel('Help under it').fill('We send no advertisements.');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Its words in English')).toHaveCount(0);
  await expect(mobile.getByRole('button', { name: 'Mobile phone, the question' })).toBeVisible();
  await mobile.getByRole('button', { name: 'When it is shown' }).click();
  await page.getByRole('button', { name: 'Add a comparison' }).click();
  await page.getByLabel('Field', { exact: true }).selectOption({ label: 'Letters allowed' });
  await page.getByLabel('Comparison', { exact: true }).selectOption('is');
  await page.getByLabel('Value', { exact: true }).selectOption('yes');
  await page.keyboard.press('Escape');
  await expect(mobile).toContainText('Shown when Letters allowed is yes');

  // By key and by dragging it goes elsewhere; what is taken out comes back with its line.
  const order = async (): Promise<(string | null)[]> =>
    questions.locator('[data-question]').evaluateAll((rows) => rows.map((row) => row.getAttribute('data-question')));
  const before = await order();
  await page.keyboard.press('Alt+ArrowUp');
  const up = await order();
  expect(up.indexOf('mobile')).toBe(before.indexOf('mobile') - 1);
  const grip = questions.getByRole('button', { name: 'First name, the question' });
  await questions.getByRole('button', { name: 'First name, the question' }).scrollIntoViewIfNeeded();
  await expect(grip).toBeInViewport();
  const [from, to] = [
    (await grip.boundingBox())!,
    (await questions.getByRole('button', { name: 'E-mail, the question' }).boundingBox())!,
  ];
  await page.mouse.move(from.x + 60, from.y + 12);
  await page.mouse.down();
  await page.mouse.move(from.x + 60, from.y + 40, { steps: 5 });
  await page.mouse.move(to.x + 60, to.y + to.height - 6, { steps: 10 });
  // It is let go only once the page has seen over what it is.
  await expect(questions.locator('[data-question="e_mail"]')).toHaveClass(/border-b-plum/);
  await page.mouse.up();
  await expect.poll(async () => (await order()).indexOf('first_name')).toBe(2);
  await questions.getByRole('button', { name: 'Salutation, the question' }).click();
  await page.keyboard.press('Delete');
  await expect(salutation).toHaveCount(0);
  await expect(person.getByRole('checkbox', { name: 'Ask for Salutation' })).not.toBeChecked();
  await page.keyboard.press('Control+z');
  await expect(salutation).toContainText('3 options');
  await expect(person.getByRole('checkbox', { name: 'Ask for Salutation' })).toBeChecked();

  // By “/” more is asked for without the mouse: a question of one's own goes into no record.
  await page.keyboard.press('/');
  await page.getByPlaceholder('Ask for a field, or a kind of question').fill('consent');
  await page.keyboard.press('Enter');
  await page.getByLabel('Its words in English').fill('I have read the statutes.');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('region', { name: 'Goes into no record' })).toContainText('I have read the statutes.');

  const opened = page.waitForEvent('popup');
  await page.getByRole('button', { name: 'Fill it in as a visitor' }).click();
  const draft = await opened;
  await expect(draft.getByText('This is the draft')).toBeVisible();
  await expect(draft.getByRole('checkbox', { name: /I have read the statutes/ })).toBeVisible();
  await expect(draft.getByLabel('Mobile phone')).toBeHidden();
  await draft.getByRole('radio', { name: 'Yes' }).check();
  await expect(draft.getByLabel('Mobile phone')).toBeVisible();
  await draft.close();
});

test('a list of organisations, a question filled by it, and the record updated: fewer than 20 actions', async ({
  app: page,
}) => {
  test.slow();
  const actions = new Actions(page);
  await page.goto(`${address()}/intakes`);
  await expect(page.getByRole('button', { name: 'New intake' })).toBeVisible();
  await actions.press('n');
  await actions.click(page.getByRole('radio', { name: 'a form of ours' }));
  await actions.click(page.getByRole('radio', { name: /^Nothing/ }));
  await actions.type(page.getByLabel('Name', { exact: true }), 'New phone number');
  await actions.click(actions.button('Make this intake'));
  await actions.click(actions.button('Another record'));
  await actions.type(page.getByPlaceholder('Find an entity'), 'Organisation');
  await expect(page.getByRole('option', { name: /^Organisation/ }).first()).toBeVisible();
  await actions.press('Enter');
  const organisation = page.getByRole('region', { name: 'Organisation' });
  await actions.click(organisation.getByRole('button', { name: 'let visitors choose which' }));
  await actions.click(organisation.getByRole('checkbox', { name: 'Ask for Phone' }));
  await actions.click(actions.button(/^Which organisation/));
  await actions.click(actions.button('Looked up or listed'));
  await actions.click(actions.button('listed, the first ones'));
  await actions.click(actions.button('How many, and in which order'));
  await actions.choose(page.getByLabel('In the order of'), 'city');
  await actions.choose(page.getByLabel('and then of'), 'name');
  await actions.press('Escape');
  await expect(page.getByRole('button', { name: 'Publish version 1' })).toBeEnabled();
  await actions.press('p');
  await actions.click(page.getByRole('dialog').getByRole('button', { name: 'Publish version 1' }));
  await expect(page.getByText('Live, version 1')).toBeVisible();
  expect(actions.count).toBeLessThan(20);

  await page.goto(`${address()}/f/new-phone-number`);
  const list = page.getByLabel(/^Which organisation/);
  await expect(list.locator('option')).toHaveCount(51);
  const { value } = await crm(page, 'Organisations?$orderby=city,name&$top=50');
  // The very first fifty; within them letters may be ordered otherwise than by the CRM.
  const offered = await list
    .locator('option')
    .evaluateAll((options) => options.map((each) => each.getAttribute('value')));
  expect(offered.slice(1).sort()).toEqual(value.map(({ id }) => id).sort());
  await list.selectOption(value[7]!['id']!);
  await expect(page.getByLabel('Phone')).toHaveValue(value[7]!['phone'] ?? '');
  await page.getByLabel('Phone').fill('+49 30 5550177');
  // What was chosen is chosen still after a reload.
  await page.reload();
  await expect(list).toHaveValue(value[7]!['id']!);
  // Whoever is quicker than people are is asked to wait a moment.
  await expect(async () => {
    await page.getByRole('button', { name: 'Send' }).click();
    await expect(page).toHaveURL(/thanks/, { timeout: 2_000 });
  }).toPass();
  await expect
    .poll(
      async () =>
        (await crm(page, `Organisations('${value[7]!['id']}')`))['phone'] ??
        // Where it isn't there: what became of it instead.
        ((await (await page.request.get(`${address()}/api/submissions?limit=1`)).json()) as object),
      { timeout: 60_000 },
    )
    .toBe('+49305550177');
});

test('a contract is changed by whoever looks the organisation up, by keyboard alone at 360 pixels', async ({
  app: page,
  browser,
}) => {
  const { value } = await crm(
    page,
    'Contracts?$filter=organisation_id ne null and starts_on ne null&$orderby=created_at desc&$top=1',
  );
  const contract = value[0]!;
  const { name } = await crm(page, `Organisations('${contract['organisation_id']}')`);
  const visitor = await (
    await browser.newContext({ viewport: { width: 360, height: 740 }, locale: 'en-GB' })
  ).newPage();
  await visitor.goto(`${address()}/f/contract-change`);
  const box = visitor.getByRole('combobox', { name: /^Which organisation/ });
  await box.focus();
  await visitor.keyboard.type(name!.slice(0, 2));
  await expect(visitor.getByText('Type at least 3 letters.')).toBeVisible();
  await visitor.keyboard.type(name!.slice(2));
  const found = visitor.getByRole('option', { name: new RegExp(`^${name}`) });
  await expect(found.first()).toBeVisible();
  await clean(visitor);
  // Of several of one name the one with this contract is gone down to.
  const ids = await visitor
    .getByRole('option')
    .evaluateAll((options) => options.map((each) => each.getAttribute('data-id')));
  for (let at = 0; at <= ids.indexOf(contract['organisation_id']!); at += 1) await visitor.keyboard.press('ArrowDown');
  await visitor.keyboard.press('Enter');
  const hives = visitor.getByLabel('Hives');
  await expect(hives).toHaveValue(String(contract['hives']));
  await expect(visitor.getByLabel('From')).toHaveValue(contract['starts_on']!);
  const tabTo = async (wanted: typeof hives): Promise<void> => {
    for (let presses = 0; presses < 30; presses += 1) {
      if (await wanted.evaluate((element) => element.matches(':focus'))) return;
      await visitor.keyboard.press('Tab');
    }
    throw new Error('Tab never leads there.');
  };
  await tabTo(hives);
  await visitor.keyboard.press('Control+a');
  await visitor.keyboard.type('33');
  await tabTo(visitor.getByLabel(/^Signature/));
  await visitor.keyboard.type('Zosia Immen');
  // Drawn as well, by whoever has a pointer.
  const pad = (await visitor.locator('.signature canvas').boundingBox())!;
  await visitor.mouse.move(pad.x + 20, pad.y + 30);
  await visitor.mouse.down();
  await visitor.mouse.move(pad.x + 120, pad.y + 60, { steps: 8 });
  await visitor.mouse.up();
  await tabTo(visitor.getByRole('checkbox', { name: /I may change/ }));
  await visitor.keyboard.press('Space');
  await tabTo(visitor.getByRole('button', { name: 'Send' }));
  await expect(async () => {
    await visitor.keyboard.press('Enter');
    await expect(visitor.getByText('Your contract is changed as you said')).toBeVisible({ timeout: 2_000 });
  }).toPass();
  const paper = (await visitor.getByRole('link', { name: 'What you sent, as a PDF' }).getAttribute('href'))!;
  const pdf = await visitor.request.get(new URL(paper, visitor.url()).href);
  expect([pdf.status(), (await pdf.body()).subarray(0, 5).toString()]).toEqual([200, '%PDF-']);
  for (const width of [320, 480, 1280]) {
    await visitor.setViewportSize({ width, height: 740 });
    await clean(visitor);
  }
  await expect
    .poll(async () => (await crm(page, `Contracts('${contract['id']}')`))['hives'], { timeout: 30_000 })
    .toBe(33);
  await visitor.context().close();

  // In its history the organisation is called as the visitor saw it.
  const { intakes } = (await (await page.request.get(`${address()}/api/intakes`)).json()) as {
    intakes: { id: string; key: string }[];
  };
  const { id } = intakes.find(({ key }) => key === 'contract-change')!;
  await page.goto(`${address()}/intakes/${id}/history`);
  await expect(page.getByRole('heading', { name: new RegExp(name!) }).first()).toBeVisible();
  const { submissions } = (await (await page.request.get(`${address()}/api/submissions?intake=${id}`)).json()) as {
    submissions: { id: string }[];
  };
  const path = await (await page.request.get(`${address()}/api/submissions/${submissions[0]!.id}`)).json();
  const { values } = (path as { submission: { values: Record<string, string> } }).submission;
  expect(values['signed']).toBe('Zosia Immen');
  const drawn = new URL(values['signed_drawn']!);
  expect(await (await page.request.get(`${address()}${drawn.pathname}`)).text()).toMatch(/<path d="M\d+ \d+L/);
});

test('a signed link opens the form with its record, and nobody without one', async ({ app: page }) => {
  const { intakes } = (await (await page.request.get(`${address()}/api/intakes`)).json()) as {
    intakes: { id: string; key: string }[];
  };
  const { id } = intakes.find(({ key }) => key === 'membership-renewal')!;
  const { value } = await crm(page, 'People?$filter=email ne null and city ne null&$top=1');
  const person = value[0]!;
  await page.goto(`${address()}/f/membership-renewal`);
  await expect(page.getByText('This form is opened by a link')).toBeVisible();
  await page.goto(`${address()}/intakes/${id}/open`);
  await page.getByLabel('Id of the Person').fill('P-none');
  await page.getByRole('button', { name: 'Make a link' }).click();
  await expect(page.getByText('is not there')).toBeVisible();
  await page.getByLabel('Id of the Person').fill(person['id']!);
  await page.getByRole('button', { name: 'Make a link' }).click();
  const link = page.getByText(/\/f\/membership-renewal\?link=/);
  await expect(link).toBeVisible();
  const made = new URL((await link.textContent())!);
  await page.goto(`${address()}${made.pathname}${made.search}`);
  await expect(page.getByLabel(/^Family name/)).toHaveValue(person['last_name']!);
  await expect(page.getByLabel('Town')).toHaveValue(person['city']!);
  await clean(page);
});

test('what a system doesn’t answer is said where it stands, and the rest of the form works', async ({ page }) => {
  await page.route(/\/f\/contract-change\/read/, (route) =>
    route.fulfill({ status: 503, json: { detail: 'Not now.' } }),
  );
  await page.goto(`${address()}/f/contract-change`);
  await page.getByRole('combobox', { name: /^Which organisation/ }).pressSequentially('obst');
  await expect(page.getByText('Not now.')).toBeVisible();
  await page.getByLabel('Hives').fill('12');
  await expect(page.getByLabel('Hives')).toHaveValue('12');
});

test('a form is copied, a question goes to another form, and a page’s form becomes one of ours', async ({
  app: page,
}) => {
  await page.goto(`${address()}/intakes/new?from=ours`);
  await page.getByRole('radio', { name: /^Another form of ours/ }).check();
  await page.getByLabel('The form that is copied').selectOption({ label: 'Contract change' });
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Copy of Contract change');
  await page.getByRole('button', { name: 'Make this intake' }).click();
  await expect(page.getByRole('heading', { name: 'Copy of Contract change', level: 1 })).toBeVisible();
  const questions = page.getByRole('list', { name: 'Questions' });
  const hives = questions.locator('[data-question="hives"]');
  await hives.click();
  await hives.getByRole('button', { name: 'Copy it to another form' }).click();
  await page.getByRole('button', { name: 'Membership renewal' }).click();
  await expect(page.getByText('copied into the draft of Membership renewal')).toBeVisible();

  const { intakes } = (await (await page.request.get(`${address()}/api/intakes`)).json()) as {
    intakes: { id: string; key: string }[];
  };
  const swarm = intakes.find(({ key }) => key === 'swarm-report')!;
  await page.goto(`${address()}/intakes/${swarm.id}/arrive`);
  await page.getByRole('button', { name: 'Make it a form of ours' }).click();
  await expect(page.getByText(/questions, under the same names/)).toBeVisible();
  await clean(page);
  await page.getByRole('button', { name: 'Make it ours' }).click();
  await expect(questions.getByText('Fills').first()).toBeVisible();
  const plan = page.getByRole('link', { name: /^Plan/ });
  await expect(plan).toBeVisible();
  // What is changed is a draft: it is undone like anything else.
  await page.getByRole('heading', { name: 'Ask for' }).click();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Make it a form of ours' })).toBeVisible();
});

test('a form of 200 questions is still edited without waiting', async ({ app: page }) => {
  const { intakes } = (await (await page.request.get(`${address()}/api/intakes`)).json()) as {
    intakes: { id: string; key: string }[];
  };
  const like = intakes.find(({ key }) => key === 'contract-change')!;
  const { intake } = (await (await page.request.get(`${address()}/api/intakes/${like.id}`)).json()) as {
    intake: { draft: { form: { pages: { items: object[] }[] } } };
  };
  const draft = structuredClone(intake.draft);
  const kinds = ['text', 'number', 'date', 'yes/no', 'email'];
  draft.form.pages[0]!.items.push(
    ...Array.from({ length: 192 }, (_, at) => ({
      ...{ id: `q${at}`, kind: kinds[at % kinds.length], name: `question_${at}` },
      label: { en: `Question ${at}`.padEnd(at === 7 ? 2000 : 0, ' and so on') },
    })),
  );
  const made = await page.request.post(`${address()}/api/intakes`, { data: { key: 'long-form', document: draft } });
  const { intake: long } = (await made.json()) as { intake: { id: string } };
  await page.goto(`${address()}/intakes/${long.id}/arrive`);
  const questions = page.getByRole('list', { name: 'Questions' });
  const last = questions.locator('[data-question="question_191"]');
  await last.scrollIntoViewIfNeeded();
  await last.click();
  await expect(last).toHaveAttribute('aria-current', 'true');
  // However fast the keys come, none of them is lost.
  for (let presses = 0; presses < 10; presses += 1) await page.keyboard.press('k');
  await expect(questions.locator('[data-question="question_181"]')).toHaveAttribute('aria-current', 'true');
  await page.keyboard.press('Alt+ArrowUp');
  const order = await questions
    .locator('[data-question]')
    .evaluateAll((all) => all.map((each) => each.getAttribute('data-question')));
  expect(order.indexOf('question_181')).toBeLessThan(order.indexOf('question_180'));
});
