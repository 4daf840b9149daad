/** @jest-environment @happy-dom/jest-environment */
import { wordsIn, type HostedForm, type Item } from '@zusammen/core/forms/hosted';
import { asHtml, formView } from '@zusammen/core/forms/hosted/view';
import { formOf, item } from '../../../core/testing/hosted.ts';
import { setUp } from './form.ts';

const words = wordsIn('en');
const today = '2027-04-20';
const sent: URLSearchParams[] = [];
let answer: () => Promise<Response>;
const left: string[] = [];

beforeEach(() => {
  sent.length = 0;
  left.length = 0;
  window.localStorage.clear();
  answer = async () => new Response('{"thanks":"/f/x/thanks"}', { status: 202 });
  globalThis.fetch = (async (_address: string, { body }: { body: URLSearchParams }) => {
    sent.push(new URLSearchParams(body.toString()));
    return answer();
  }) as never;
  jest.spyOn(window.location, 'assign').mockImplementation((to) => void left.push(String(to)));
});
afterEach(() => jest.restoreAllMocks());

/** The page of a form, as the server writes it, with its script at work. */
function open(form: HostedForm, along: Record<string, string> = { _shown: 'issued' }): HTMLFormElement {
  document.body.innerHTML = asHtml(formView({ form, language: 'en', today, action: '/f/x', fresh: true, along }));
  const root = document.querySelector('form')!;
  setUp(root, { form, language: 'en', today });
  return root;
}
const field = (root: ParentNode, name: string): HTMLInputElement => root.querySelector(`[name="${name}"]`)!;
function type(root: ParentNode, name: string, value: string): void {
  const control = field(root, name);
  control.value = value;
  control.dispatchEvent(new Event('input', { bubbles: true }));
}
function choose(root: ParentNode, name: string, value: string): void {
  const control = root.querySelector<HTMLInputElement>(`[name="${name}"][value="${value}"]`)!;
  control.checked = true;
  control.dispatchEvent(new Event('change', { bubbles: true }));
}
const press = (button: Element): void => void (button as HTMLButtonElement).click();
const send = (root: ParentNode): void => press(root.querySelector('.send button')!);
const isOff = (root: ParentNode, name: string): boolean =>
  root.querySelector(`[data-q="${name}"]`)!.hasAttribute('data-off');
const wrong = (root: ParentNode): string[] =>
  [...root.querySelectorAll<HTMLElement>('.wrong')].filter(({ hidden }) => !hidden).map(({ id }) => id);
const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));
const when = (name: string, value: string): Item['shown'] => ({
  match: 'all',
  parts: [{ field: name, test: 'is', value }],
});

const form = formOf([
  item('text', 'name', { required: true }),
  item('yes/no', 'member'),
  item('text', 'number', { required: true, shown: when('member', 'yes') }),
  item('words', undefined, { shown: when('member', 'no') }),
  item('email', 'email', { sensitive: true }),
]);

it('shows what applies to what has been answered', () => {
  const root = open(form);
  expect(isOff(root, 'number')).toBe(true);
  choose(root, 'member', 'yes');
  expect(isOff(root, 'number')).toBe(false);
  expect(root.querySelector('.words')!.hasAttribute('data-off')).toBe(true);
  choose(root, 'member', 'no');
  expect(isOff(root, 'number')).toBe(true);
  expect(root.querySelector('.words')!.hasAttribute('data-off')).toBe(false);
});

it('says what is wrong at each field, goes to the first, and sends nothing', async () => {
  const root = open(form);
  choose(root, 'member', 'yes');
  type(root, 'email', 'nobody');
  send(root);
  await settle();
  expect(sent).toEqual([]);
  expect(wrong(root)).toEqual(['q-name-wrong', 'q-number-wrong', 'q-email-wrong']);
  expect(document.activeElement).toBe(field(root, 'name'));
  expect(field(root, 'name').getAttribute('aria-describedby')).toBe('q-name-wrong');
  expect(root.querySelector('#summary')!.textContent).toContain(words.errors(3));
  expect([...root.querySelectorAll('#summary a')].map(({ textContent }) => textContent)).toContain(
    `number: ${words.required}`,
  );
  // What is put right loses its words at once; what is still wrong keeps them.
  type(root, 'name', 'Ada');
  expect(wrong(root)).toEqual(['q-number-wrong', 'q-email-wrong']);
  expect(field(root, 'name').hasAttribute('aria-invalid')).toBe(false);
});

it('sends once, is locked meanwhile, and goes on to the thanks', async () => {
  const root = open(form);
  type(root, 'name', 'Ada');
  let arrive!: (response: Response) => void;
  answer = () => new Promise((resolve) => (arrive = resolve));
  send(root);
  expect(root.inert).toBe(true);
  expect(root.querySelector('.send button')!.textContent).toBe(words.sending);
  arrive(new Response('{"thanks":"/f/x/thanks"}', { status: 202 }));
  await settle();
  await settle();
  expect(sent.map((each) => each.get('_shown'))).toEqual(['issued']);
  expect(left).toEqual(['/f/x/thanks']);
  expect(window.localStorage.length).toBe(0);
});

it('keeps everything where nothing answers, or the server refuses', async () => {
  const root = open(form);
  type(root, 'name', 'Ada');
  answer = () => Promise.reject(new TypeError('no connection'));
  send(root);
  await settle();
  expect(root.querySelector('#summary')!.textContent).toContain(words.notSentNow);
  expect([root.inert, field(root, 'name').value]).toEqual([false, 'Ada']);
  answer = async () => new Response('{"errors":[{"field":"name","message":"Not that one."}]}', { status: 422 });
  send(root);
  await settle();
  await settle();
  expect(root.querySelector('#q-name-wrong')!.textContent).toBe('Not that one.');
  answer = async () =>
    new Response('{"errors":[{"field":"_shown","message":"before"}],"shown":"another"}', { status: 409 });
  send(root);
  await settle();
  await settle();
  expect(field(root, '_shown').value).toBe('another');
  expect(sent).toHaveLength(3);
});

it('has what wasn’t sent back after a reload, but what is sensitive, and is the same submission still', () => {
  const rows = formOf([
    ...form.pages[0]!.items,
    item('group', 'more', { items: [item('text', 'x'), item('group', 'in', { items: [item('text', 'y')] })] }),
  ]);
  const root = open(rows);
  type(root, 'name', 'Ada');
  choose(root, 'member', 'yes');
  type(root, 'email', 'ada@x.example');
  type(root, 'more[0][x]', 'one');
  press(root.querySelector('[data-group="more"] > .more')!);
  type(root, 'more[1][x]', 'two');
  type(root, 'more[1][in][0][y]', 'deep');
  const again = open(rows, { _shown: 'fresh' });
  expect(
    ['name', 'email', 'more[0][x]', 'more[1][x]', 'more[1][in][0][y]'].map((name) => field(again, name).value),
  ).toEqual(['Ada', '', 'one', 'two', 'deep']);
  expect(isOff(again, 'number')).toBe(false);
  expect(again.querySelector('.restored')!.textContent).toContain(words.restored);
  expect(field(again, '_shown').value).toBe('issued');
  expect(window.localStorage.getItem(window.localStorage.key(0)!)).not.toContain('ada@x.example');
});

describe('rows', () => {
  const grouped = formOf([
    item('group', 'more', {
      leastRows: 1,
      mostRows: 3,
      items: [
        item('one of', 'kind', { options: [{ value: 'a', label: { en: 'A' } }] }),
        item('text', 'x', { required: true, shown: when('more[0][kind]', 'a') }),
      ],
    }),
  ]);
  it('are added and taken away, each with questions of its own', () => {
    const root = open(grouped);
    const legends = () => [...root.querySelectorAll('.row > legend')].map(({ textContent }) => textContent);
    press(root.querySelector('.more')!);
    press(root.querySelector('.more')!);
    expect(legends()).toEqual(['Row 1', 'Row 2', 'Row 3']);
    expect(root.querySelector<HTMLElement>('.more')!.hidden).toBe(true);
    choose(root, 'more[1][kind]', 'a');
    expect([0, 1, 2].map((row) => isOff(root, `more[${row}][x]`))).toEqual([true, false, true]);
    press(root.querySelector('[data-row="more[0]"] > .less')!);
    expect(legends()).toEqual(['Row 1', 'Row 2']);
    expect(isOff(root, 'more[1][x]')).toBe(false);
    press(root.querySelector('[data-row="more[1]"] > .less')!);
    // As many as there have to be stay.
    expect(root.querySelector<HTMLElement>('[data-row="more[2]"] > .less')!.hidden).toBe(true);
    const ids = [...root.querySelectorAll('[id]')].map(({ id }) => id);
    expect(new Set(ids).size).toBe(ids.length);
  });
});

it('turns pages that are right, passes over those that don’t apply, and comes back to what is wrong', async () => {
  const paged = formOf([], {
    pages: [
      { id: 'one', items: [item('text', 'name', { required: true }), item('yes/no', 'member')] },
      { id: 'two', shown: when('member', 'yes'), items: [item('text', 'number', { required: true })] },
      { id: 'three', items: [item('text', 'last')] },
    ],
  });
  const root = open(paged);
  const seen = () =>
    [...root.querySelectorAll<HTMLElement>('.page')]
      .filter(({ hidden }) => !hidden)
      .map(({ dataset }) => dataset['page']);
  const turn = (at: 0 | 1): void =>
    press([...root.querySelectorAll<HTMLElement>('.page:not([hidden]) .turn button')][at]!);
  expect(seen()).toEqual(['one']);
  turn(1);
  expect([seen(), wrong(root)]).toEqual([['one'], ['q-name-wrong']]);
  type(root, 'name', 'Ada');
  turn(1);
  expect(seen()).toEqual(['three']);
  turn(0);
  choose(root, 'member', 'yes');
  turn(1);
  type(root, 'number', '17');
  turn(1);
  expect(seen()).toEqual(['three']);
  answer = async () => new Response('{"errors":[{"field":"name","message":"Not that one."}]}', { status: 422 });
  send(root);
  await settle();
  await settle();
  expect(seen()).toEqual(['one']);
});

describe('what is to be paid', () => {
  const fee: HostedForm['fee'] = {
    ...{ service: 'till', currency: 'EUR' },
    charges: [{ id: 'a', label: { en: 'A year' }, by: 'fixed', minor: 4000, times: 'years' }],
  };
  it('stays true while answers change', () => {
    const root = open(formOf([item('number', 'years', { decimals: 0 })], { fee }));
    const sum = (): string | null => root.querySelector('[data-fee]')!.textContent;
    expect(sum()).toBe('€0.00');
    type(root, 'years', '3');
    expect(sum()).toBe('€120.00');
    type(root, 'years', '999999999999');
    expect(sum()).toBe('–');
  });
});

describe('a file', () => {
  const asked = formOf([item('text', 'name'), item('file', 'photo', { required: true, mostMebibytes: 1 })]);
  const picker = (root: ParentNode): HTMLInputElement => root.querySelector('input[type=file]')!;
  function pick(root: ParentNode, file: File): void {
    Object.defineProperty(picker(root), 'files', { configurable: true, value: [file] });
    picker(root).dispatchEvent(new Event('change', { bubbles: true }));
  }
  const status = (root: ParentNode): string => root.querySelector('.file [role=status]')!.textContent!;
  const took = (): void => {
    const uploads: string[] = [];
    globalThis.fetch = (async (address: string | URL, init: { body: unknown }) => {
      if (!String(address).includes('/file?')) {
        sent.push(new URLSearchParams((init.body as URLSearchParams).toString()));
        return answer();
      }
      uploads.push(String(address));
      return new Response('{"token":"v1.kept","name":"bees.png"}', { status: 201 });
    }) as never;
  };
  it('is sent as soon as it is chosen, and what speaks for it with the form', async () => {
    took();
    const root = open(asked);
    send(root);
    await settle();
    expect(sent).toHaveLength(0);
    pick(root, new File(['x'], 'bees.png', { type: 'image/png' }));
    expect(status(root)).toBe(words.fileSending);
    await settle();
    expect(status(root)).toContain('bees.png is here.');
    send(root);
    await settle();
    expect(sent[0]!.getAll('photo')).toEqual(['v1.kept']);
  });
  it('is taken away again, and is here again after a reload', async () => {
    took();
    const root = open(asked);
    pick(root, new File(['x'], 'bees.png'));
    await settle();
    const again = open(asked);
    expect(field(again, 'photo').value).toBe('v1.kept');
    expect(status(again)).toContain(words.fileHere);
    press(again.querySelector('.file button')!);
    expect([field(again, 'photo').value, status(again)]).toEqual(['', '']);
  });
  it('that is empty, too large or refused is said at once, and sent nowhere', async () => {
    const root = open(asked);
    const trouble = (): string => root.querySelector<HTMLElement>('.q-file .wrong')!.textContent!;
    pick(root, new File([], 'nothing.png'));
    expect(trouble()).toBe(words.fileEmpty);
    pick(root, new File([new Uint8Array(1024 * 1024 + 1)], 'large.png'));
    expect(trouble()).toBe(words.fileTooLarge(1));
    answer = async () => new Response(JSON.stringify({ detail: words.fileSort }), { status: 422 });
    globalThis.fetch = (async () => answer()) as never;
    pick(root, new File(['<svg>'], 'a.svg'));
    await settle();
    expect(trouble()).toBe(words.fileSort);
    expect(field(root, 'photo').value).toBe('');
    globalThis.fetch = (async () => Promise.reject(new TypeError('gone'))) as never;
    pick(root, new File(['x'], 'a.png'));
    await settle();
    expect(trouble()).toBe(words.notSentNow);
  });
});

it('a signature is typed, and may be drawn as whole numbers', async () => {
  const root = open(formOf([item('signature', 'signed', { required: true })]));
  const canvas = root.querySelector('canvas')!;
  expect(canvas.hidden).toBe(false);
  Object.assign(canvas, { setPointerCapture: () => undefined, hasPointerCapture: () => true });
  canvas.getBoundingClientRect = () => ({ left: 0, top: 0, width: 300, height: 90 }) as DOMRect;
  const draw = (kind: string, clientX: number, clientY: number): void =>
    void canvas.dispatchEvent(
      Object.assign(new Event(kind, { bubbles: true, cancelable: true }), { clientX, clientY, pointerId: 1 }),
    );
  draw('pointerdown', 10.4, 20);
  draw('pointermove', 999, -5);
  draw('pointerup', 0, 0);
  expect(field(root, 'signed_drawn').value).toBe('M21 40L600 0');
  send(root);
  await settle();
  expect(wrong(root)).toEqual(['q-signed-wrong']);
  type(root, 'signed', 'Zosia Immen');
  send(root);
  await settle();
  expect(Object.fromEntries(sent[0]!)).toMatchObject({ signed: 'Zosia Immen', signed_drawn: 'M21 40L600 0' });
  const [anew] = [...root.querySelectorAll('.signature button')];
  press(anew!);
  expect(field(root, 'signed_drawn').value).toBe('');
});

it('does the small sum that it is asked for, and sends it along', async () => {
  const { createChallenge } = await import('altcha-lib');
  const { deriveKey } = await import('altcha-lib/algorithms/web/pbkdf2');
  const work = await createChallenge({
    ...{ algorithm: 'PBKDF2/SHA-256', cost: 10, keyPrefix: '0', deriveKey, hmacSignatureSecret: 'ours' },
  });
  const answers = [
    new Response(JSON.stringify({ work, errors: [] }), { status: 428 }),
    new Response('{"thanks":"/f/x/thanks"}', { status: 202 }),
  ];
  answer = async () => answers.shift()!;
  const root = open(form);
  type(root, 'name', 'Ada');
  send(root);
  for (let tries = 0; left.length === 0 && tries < 200; tries += 1)
    await new Promise((resolve) => setTimeout(resolve, 20));
  expect(left).toEqual(['/f/x/thanks']);
  expect(sent.map((body) => body.has('_work'))).toEqual([false, true]);
  expect(JSON.parse(sent[1]!.get('_work')!)).toMatchObject({ challenge: { signature: work.signature } });
});
