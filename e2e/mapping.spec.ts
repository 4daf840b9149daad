import type { Page } from '@playwright/test';
import { address, expect, pick, test } from './stage.ts';

/** Mapping in depth: states, drag, computed values, conditions, mends, and what a change would do. */
async function intakeOf(
  page: Page,
  key: string,
): Promise<{ id: string; draft: Record<string, unknown>; revision: number }> {
  const { intakes } = (await (await page.request.get(`${address()}/api/intakes`)).json()) as {
    intakes: { id: string; key: string }[];
  };
  const found = intakes.find((each) => each.key === key)!;
  const { intake } = (await (await page.request.get(`${address()}/api/intakes/${found.id}`)).json()) as {
    intake: { id: string; draft: Record<string, unknown>; revision: number };
  };
  return intake;
}

/** A copy of the pollination enquiry with its samples, to do with as one likes. */
async function copy(page: Page, key: string): Promise<string> {
  const { id, draft } = await intakeOf(page, 'pollination-enquiry');
  const made = (await (
    await page.request.post(`${address()}/api/intakes`, { data: { key, document: { ...draft, name: `Copy ${key}` } } })
  ).json()) as { intake: { id: string } };
  const { samples } = (await (await page.request.get(`${address()}/api/intakes/${id}/samples`)).json()) as {
    samples: { values: object }[];
  };
  for (const { values } of samples.slice(0, 5))
    await page.request.post(`${address()}/api/intakes/${made.intake.id}/samples`, { data: { values } });
  return made.intake.id;
}

test('lines are shown by state, and what is left is dragged onto what nothing fills', async ({ app: page }) => {
  const id = await copy(page, 'drag');
  await page.goto(`${address()}/intakes/${id}/plan`);
  const unused = page.getByRole('radio', { name: /^Not used/ });
  await expect(unused).toContainText('7');
  await unused.click();
  await expect(page).toHaveURL(/show=unused/);
  // What is left stands on the page otherwise before and after; only what stands there to stay has a place.
  const left = page.getByRole('list', { name: 'Not used here' });
  const crops = left.getByRole('button', { name: 'Use Crops' });
  await expect(crops).toBeVisible();
  const interests = page.getByRole('button', { name: 'Fill Interests' });
  const [from, to] = [(await crops.boundingBox())!, (await interests.boundingBox())!];
  await page.mouse.move(from.x + 10, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(from.x + 40, from.y + 20, { steps: 4 });
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 8 });
  // What is dragged is seen where the pointer is, out of its list.
  await expect(page.getByText('Crops', { exact: true })).toHaveCount(2);
  // It is let go only once the page has seen over what it is.
  await expect(interests.locator('..')).toHaveClass(/outline-moss/);
  await page.mouse.up();
  await expect(unused).toContainText('6');
  await page.getByRole('radio', { name: /^Need a look/ }).click();
  await expect(page.locator('tr[data-field="interests"]')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(unused).toContainText('7');
});

test('a value is computed with the fields offered while typing and errors under the word', async ({ app: page }) => {
  const id = await copy(page, 'compute');
  await page.goto(`${address()}/intakes/${id}/plan`);
  await page.locator('tr[data-field="notes"]').click();
  await page.getByRole('button', { name: 'Add a treatment' }).click();
  await pick(page, 'Find a treatment', 'compute');
  await page.getByRole('button', { name: 'Settings of = value' }).click();
  const box = page.getByLabel(/^Computed in CEL/);
  await box.fill('form.hive');
  await expect(page.getByText('The form has no field “hive”.', { exact: true })).toBeVisible();
  await expect(page.getByRole('list', { name: 'What could stand here' })).toContainText('Hives wanted');
  await box.press('Enter');
  await expect(box).toHaveValue('form.hives');
  await box.pressSequentially(' + " hives, " + form.plz');
  await page.keyboard.press('Escape');
  await expect(page.locator('tr[data-field="notes"]')).toContainText(/\d hives, \d{5}/);
});

test('a step is done only under a condition that is picked, with how many samples it holds for', async ({
  app: page,
}) => {
  const id = await copy(page, 'condition');
  await page.goto(`${address()}/intakes/${id}/plan`);
  await page.getByRole('button', { name: 'Condition of this step' }).click();
  await page.getByRole('button', { name: 'Add a comparison' }).click();
  await page.getByLabel('Field', { exact: true }).selectOption('lang');
  await page.getByLabel('Comparison', { exact: true }).selectOption('is');
  await page.getByLabel('Value').selectOption('german');
  await page.keyboard.press('Escape');
  await expect(page.getByText(/Only if/)).toContainText('We write to you in is Deutsch');
  await expect(page.getByText(/Only if/)).toContainText(/\d of 5/);
  await page.getByRole('button', { name: 'Condition of this step' }).click();
  await page.getByRole('button', { name: 'Add a comparison' }).click();
  await page.getByLabel('Field', { exact: true }).nth(1).selectOption('lang');
  await page.getByLabel('Comparison', { exact: true }).nth(1).selectOption('is');
  await page.getByLabel('Value').nth(1).selectOption('polish');
  await page.keyboard.press('Escape');
  await expect(page.getByText(/can never hold, so this step is never done/)).toBeVisible();
});

test('a check’s mend settles it with one click, and is undone like anything else', async ({ app: page }) => {
  const id = await copy(page, 'mend');
  const { draft, revision } = await intakeOf(page, 'mend');
  const plan = draft['plan'] as {
    steps: { lines: { field: string; ifBoth: string; treatments: { kind: string }[] }[] }[];
  };
  const phone = plan.steps[0]!.lines.find(({ field }) => field === 'notes')!;
  phone.field = 'city';
  phone.ifBoth = 'write';
  await page.request.put(`${address()}/api/intakes/${id}/draft`, { data: { revision, document: draft } });
  await page.goto(`${address()}/intakes/${id}/plan`);
  const checks = page.getByRole('region', { name: 'Checks' });
  await expect(checks).toContainText('Two lines write City');
  await checks.getByRole('button', { name: 'fill only what is empty' }).click();
  await expect(checks).not.toContainText('Two lines write City');
  await checks.getByRole('button', { name: 'cut at 80 characters' }).click();
  await expect(page.getByText('City takes 80 characters')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(checks).toContainText('City takes 80 characters');
});

test('draft against live tells which submissions would come out differently', async ({ app: page }) => {
  const { id } = await intakeOf(page, 'pollination-enquiry');
  await page.goto(`${address()}/intakes/${id}/plan`);
  await page.locator('tr[data-field="city"]').click();
  await page.getByRole('button', { name: 'Add a treatment' }).click();
  await pick(page, 'Find a treatment', 'capital');
  await page.getByRole('button', { name: /Settings of Capital/ }).click();
  await page.getByRole('combobox', { name: 'Letters' }).selectOption('upper');
  await page.keyboard.press('Escape');
  await expect(page.getByText('Draft differs from live')).toBeVisible();
  await page.getByRole('link', { name: /^Rehearse/ }).click();
  await page.getByRole('button', { name: 'Draft against live' }).click();
  await expect(page.getByText(/would come out differently.*City in \d+/)).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('cell', { name: /^[A-ZÄÖÜ]+$/ }).first()).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: /^Plan/ }).click();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
});

test('samples are kept without people’s values, filled in by hand, or taken from rows of a file', async ({
  app: page,
}) => {
  const id = await copy(page, 'samples');
  await page.goto(`${address()}/intakes/${id}/rehearse`);
  await expect(page.getByRole('heading', { name: '5 samples' })).toBeVisible();
  const before = await page.getByRole('row').nth(1).innerText();
  await page.getByRole('button', { name: 'without people’s values' }).click();
  await page.getByRole('button', { name: 'Keep 5 made-up samples' }).click();
  await expect(page.getByRole('heading', { name: '5 samples' })).toBeVisible();
  await expect(page.getByRole('row').nth(1)).not.toHaveText(before);
  await page.getByRole('button', { name: 'Add a sample' }).click();
  await page.getByRole('radio', { name: 'Fill it in' }).click();
  await page.getByLabel('Last name').fill('Handarbeit');
  await page.getByRole('button', { name: 'Keep this sample' }).click();
  await expect(page.getByRole('heading', { name: '6 samples' })).toBeVisible();
  await page.getByRole('button', { name: 'Add a sample' }).click();
  await page.getByRole('radio', { name: 'Rows of a file' }).click();
  await page.getByLabel('A file with submissions').setInputFiles({
    name: 'rows.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('contact_first,contact_last,contact_email\nA,Eins,a1@biene.example\nB,Zwei,b2@biene.example\n'),
  });
  await page.getByRole('button', { name: 'Keep these 2 samples' }).click();
  await expect(page.getByRole('heading', { name: '8 samples' })).toBeVisible();
});

test('the reach of a field shows the way from the form’s fields, and leads to the intake', async ({ app: page }) => {
  await page.goto(`${address()}/schema`);
  await page.getByRole('button', { name: /^Person/ }).click();
  await page.getByRole('button', { name: 'Reach of E-mail' }).click();
  const popover = page.getByRole('dialog');
  await expect(popover).toContainText('recognised by');
  await popover.getByRole('link', { name: 'Pollination enquiry' }).first().click();
  await expect(page.getByRole('heading', { name: 'Pollination enquiry' })).toBeVisible();
});

test('300 fields of a form towards a record stay fluid', async ({ app: page }) => {
  const { draft } = await intakeOf(page, 'pollination-enquiry');
  const [step] = (draft['plan'] as { steps: { lines: object[] }[] }).steps;
  const fields = Array.from({ length: 300 }, (_, at) => ({
    name: `f${at}`,
    label: `Field ${at}`,
    type: 'text',
    required: false,
  }));
  const lines = fields.map(({ name }, at) => ({
    id: `l${at}`,
    from: [name],
    treatments: [{ kind: 'trim' }, { kind: 'case', case: 'title' }],
    field: 'notes',
    ifBoth: 'add to list',
    blankErases: false,
    origin: 'set',
  }));
  const document = { ...draft, name: 'Large', fields, plan: { steps: [{ ...step, lines }] } };
  const made = (await (
    await page.request.post(`${address()}/api/intakes`, { data: { key: 'large', document } })
  ).json()) as { intake: { id: string } };
  await page.goto(`${address()}/intakes/${made.intake.id}/plan`);
  await expect(page.getByRole('radio', { name: /^All lines 300/ })).toBeVisible();
  // Only what is seen is drawn, so that 300 lines cost what 30 do.
  expect(await page.locator('tr[data-field]').count()).toBeLessThan(60);
  await page.keyboard.press('End');
  await expect(page.locator('tr[aria-selected="true"]')).toContainText('Field 299');
  await page.keyboard.press('Home');
  await expect(page.locator('tr[aria-selected="true"]')).toContainText('Field 0');
});
