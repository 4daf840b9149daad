import { besides, type Words } from '@zusammen/core/forms/hosted';

/** What the server tells of records: those that are offered, or one that was chosen with what it fills. */
interface Offered {
  id: string;
  shown: string[];
}
interface Chosen extends Offered {
  fills: Record<string, string | string[]>;
  offer: string;
  /** What stands in the way of it, in words. */
  note?: string;
}

const OFFER = '_offer';
/** Nothing is asked while somebody types on. */
const REST_MS = 200;

/**
 * Questions whose answers are records: looked up while somebody types, or listed. What comes of a choice is put into the
 * questions it fills.
 */
export class Reading {
  constructor(
    private readonly root: HTMLFormElement,
    private readonly words: Words,
    private readonly answersIn: () => Record<string, string | string[]>,
    /** Puts values into questions, and has the page follow. */
    private readonly fill: (values: Record<string, string | string[]>) => void,
  ) {
    root.addEventListener('input', (event) => this.typed(event.target as HTMLElement));
    root.addEventListener('change', (event) => this.changed(event.target as HTMLElement));
    root.addEventListener('keydown', (event) => this.key(event));
    root.addEventListener('focusout', ({ target }) => this.left(target as HTMLElement));
  }

  /** Reads what lists offer, and shows what was chosen before; also in rows that are new. */
  refresh(): void {
    for (const place of this.root.querySelectorAll<HTMLElement>('[data-reads]:not([data-read])')) {
      if (place.closest('template')) continue;
      place.dataset['read'] = '';
      if (place.dataset['reads'] === 'record') void this.showChosen(place);
      else void this.list(place);
    }
  }

  private typed(target: HTMLElement): void {
    const place = target.closest<HTMLElement>('.lookup');
    if (place && target.getAttribute('role') === 'combobox') {
      this.forget(place);
      clearTimeout(Number(place.dataset['timer']));
      place.dataset['timer'] = String(setTimeout(() => void this.look(place), REST_MS));
    }
  }

  private changed(target: HTMLElement): void {
    const name = target.getAttribute('name') ?? '';
    if (name === '') return;
    // What goes by this answer is another question now.
    for (const place of this.root.querySelectorAll<HTMLElement>('[data-reads]')) {
      if (!namesOf(place, nameOf(place)).includes(name)) continue;
      if (place.dataset['reads'] === 'record') this.clear(place);
      else void this.list(place);
    }
    const list = target.closest<HTMLElement>('[data-reads]');
    if (list && list.dataset['reads'] === 'one of') void this.choose(list, (target as HTMLSelectElement).value);
  }

  private async look(place: HTMLElement): Promise<void> {
    const input = box(place);
    const text = input.value.trim();
    const letters = Number(place.dataset['letters']);
    if (text.length < letters) return this.say(place, text === '' ? '' : this.words.typeMore(letters));
    this.say(place, this.words.looking);
    const answer = await this.ask<{ offered: Offered[] }>(place, { _text: text });
    // Typed on meanwhile, or gone on: what comes now is no answer any more.
    if (input.value.trim() !== text || document.activeElement !== input) return;
    if ('said' in answer) return this.say(place, answer.said);
    const { offered } = answer;
    this.show(place, offered, text);
    this.say(place, offered.length === 0 ? this.words.noneFound : this.words.found(offered.length));
  }

  private show(place: HTMLElement, offered: readonly Offered[], text: string): void {
    const list = listOf(place);
    list.replaceChildren(
      ...offered.map(({ id, shown }, at) => {
        const option = document.createElement('li');
        option.id = `${list.id}-${at}`;
        option.setAttribute('role', 'option');
        option.setAttribute('aria-selected', 'false');
        option.dataset['id'] = id;
        option.append(...marked(shown[0] ?? '', text));
        const rest = shown.slice(1).filter(Boolean).join(', ');
        if (rest !== '') {
          const more = document.createElement('small');
          more.textContent = ` ${rest}`;
          option.append(more);
        }
        // Before the field loses the focus.
        option.addEventListener('pointerdown', (event) => {
          event.preventDefault();
          void this.choose(place, id);
        });
        return option;
      }),
    );
    this.open(place, offered.length > 0);
  }

  private key(event: KeyboardEvent): void {
    const place = (event.target as HTMLElement).closest<HTMLElement>('.lookup');
    if (!place || (event.target as HTMLElement).getAttribute('role') !== 'combobox') return;
    const list = listOf(place);
    const options = [...list.children] as HTMLElement[];
    const at = options.findIndex((option) => option.getAttribute('aria-selected') === 'true');
    const isOpen = !list.hidden;
    if (event.key === 'Escape' && isOpen) this.open(place, false);
    else if (event.key === 'ArrowDown' && isOpen) this.mark(place, Math.min(options.length - 1, at + 1));
    else if (event.key === 'ArrowUp' && isOpen) this.mark(place, Math.max(0, at - 1));
    else if (event.key === 'ArrowDown') void this.look(place);
    else if (event.key === 'Enter' && isOpen) void this.choose(place, options[Math.max(0, at)]!.dataset['id']!);
    else return;
    event.preventDefault();
  }

  private mark(place: HTMLElement, at: number): void {
    const options = [...listOf(place).children] as HTMLElement[];
    options.forEach((option, index) => option.setAttribute('aria-selected', String(index === at)));
    box(place).setAttribute('aria-activedescendant', options[at]?.id ?? '');
    options[at]?.scrollIntoView({ block: 'nearest' });
  }

  private open(place: HTMLElement, open: boolean): void {
    listOf(place).hidden = !open;
    box(place).setAttribute('aria-expanded', String(open));
    box(place).removeAttribute('aria-activedescendant');
  }

  /** Words that nobody has chosen by are taken away: nothing would be sent for them. */
  private left(target: HTMLElement): void {
    const place = target.closest<HTMLElement>('.lookup');
    if (!place || target.getAttribute('role') !== 'combobox') return;
    this.open(place, false);
    if (chosenIn(place).value === '' && box(place).value !== '' && place.dataset['busy'] === undefined) {
      box(place).value = '';
      this.say(place, '');
    }
  }

  /** Takes a record, and puts what it holds into the questions it fills. */
  private async choose(place: HTMLElement, id: string): Promise<void> {
    this.dropOffer(place);
    if (place.classList.contains('lookup')) {
      place.dataset['busy'] = '';
      this.open(place, false);
      this.say(place, this.words.looking);
    }
    if (id === '') return;
    const answer = await this.ask<{ chosen: Chosen }>(place, { _chosen: id });
    delete place.dataset['busy'];
    if ('said' in answer) return this.say(place, answer.said);
    const { chosen } = answer;
    if (place.classList.contains('lookup')) {
      chosenIn(place).value = chosen.id;
      box(place).value = chosen.shown.filter(Boolean).join(', ');
    }
    this.say(place, chosen.note ?? '');
    this.keepOffer(place, chosen.offer);
    const row = nameOf(place);
    this.fill(Object.fromEntries(Object.entries(chosen.fills).map(([into, said]) => [besides(row, into), said])));
  }

  /** Shows what was chosen before the page was loaded anew. */
  private async showChosen(place: HTMLElement): Promise<void> {
    const { value } = chosenIn(place);
    if (value === '') return;
    const answer = await this.ask<{ chosen: Chosen }>(place, { _chosen: value });
    if ('said' in answer) return this.say(place, answer.said);
    box(place).value = answer.chosen.shown.filter(Boolean).join(', ');
    this.keepOffer(place, answer.chosen.offer);
  }

  /** Reads what a list offers. */
  private async list(place: HTMLElement): Promise<void> {
    const names = namesOf(place, nameOf(place));
    const answers = this.answersIn();
    const isOpen = names.every((name) => [answers[name] ?? ''].flat().some((each) => each !== ''));
    const answer = isOpen ? await this.ask<{ offered: Offered[] }>(place, {}) : { offered: [] };
    if ('said' in answer) return this.say(place, answer.said);
    this.say(place, isOpen ? (answer.offered.length === 0 ? this.words.noneFound : '') : this.words.firstAnswer);
    if (place instanceof HTMLSelectElement) listInto(place, answer.offered);
    else boxesInto(place, answer.offered);
  }

  private clear(place: HTMLElement): void {
    box(place).value = '';
    this.forget(place);
    this.open(place, false);
    this.say(place, '');
  }

  private forget(place: HTMLElement): void {
    chosenIn(place).value = '';
    this.dropOffer(place);
  }

  private keepOffer(place: HTMLElement, offer: string): void {
    this.dropOffer(place);
    const input = document.createElement('input');
    Object.assign(input, { type: 'hidden', name: OFFER, value: offer });
    input.dataset['of'] = nameOf(place);
    this.root.append(input);
  }

  private dropOffer(place: HTMLElement): void {
    this.root.querySelector(`input[name="${OFFER}"][data-of="${CSS.escape(nameOf(place))}"]`)?.remove();
  }

  private say(place: HTMLElement, text: string): void {
    let said = place.parentElement?.querySelector<HTMLElement>('[role="status"]');
    if (!said) {
      said = document.createElement('p');
      said.className = 'help';
      said.setAttribute('role', 'status');
      place.after(said);
    }
    said.textContent = text;
  }

  private async ask<T>(place: HTMLElement, what: Record<string, string>): Promise<T | { said: string }> {
    const name = nameOf(place);
    const body = new URLSearchParams({ _question: name, ...what });
    const answers = this.answersIn();
    // The row it stands in is there, whatever is answered in it.
    body.append(name, '');
    for (const each of namesOf(place, name)) for (const said of [answers[each] ?? []].flat()) body.append(each, said);
    const { pathname, search } = new URL(this.root.action);
    try {
      const response = await fetch(`${pathname}/read${search}`, {
        method: 'POST',
        body,
        headers: { Accept: 'application/json' },
      });
      if (response.ok) return (await response.json()) as T;
      const problem = (await response.json().catch(() => ({}))) as { detail?: string };
      return { said: problem.detail ?? this.words.notLookedUp };
    } catch {
      return { said: this.words.notLookedUp };
    }
  }
}

const box = (place: HTMLElement): HTMLInputElement => place.querySelector<HTMLInputElement>('[role="combobox"]')!;
const chosenIn = (place: HTMLElement): HTMLInputElement =>
  place.querySelector<HTMLInputElement>('input[type="hidden"]')!;
const listOf = (place: HTMLElement): HTMLElement => place.querySelector<HTMLElement>('[role="listbox"]')!;
const nameOf = (place: HTMLElement): string =>
  place instanceof HTMLSelectElement ? place.name : (place.dataset['name'] ?? chosenIn(place).name);

/** The questions whose answers decide what is offered, as they are called in this one's row. */
const namesOf = (place: HTMLElement, name: string): string[] =>
  (place.dataset['by'] ?? '')
    .split(' ')
    .filter(Boolean)
    .map((by) => besides(name, by));

/** A text with what was typed in bold. */
function marked(text: string, typed: string): (string | HTMLElement)[] {
  const at = text.toLowerCase().indexOf(typed.toLowerCase());
  if (at < 0 || typed === '') return [text];
  const bold = document.createElement('b');
  bold.textContent = text.slice(at, at + typed.length);
  return [text.slice(0, at), bold, text.slice(at + typed.length)];
}

const labelOf = ({ shown }: Offered): string => shown.filter(Boolean).join(', ');

function listInto(select: HTMLSelectElement, offered: readonly Offered[]): void {
  const held = select.value;
  const [first] = select.options;
  select.replaceChildren(
    ...(first ? [first] : []),
    ...offered.map((each) => new Option(labelOf(each), each.id, false, each.id === held)),
  );
}

function boxesInto(place: HTMLElement, offered: readonly Offered[]): void {
  const name = place.dataset['name']!;
  const held = new Set([...place.querySelectorAll<HTMLInputElement>('input:checked')].map(({ value }) => value));
  place.replaceChildren(
    ...offered.map((each) => {
      const label = document.createElement('label');
      label.className = 'choice';
      const input = document.createElement('input');
      Object.assign(input, { type: 'checkbox', name, value: each.id, checked: held.has(each.id) });
      const text = document.createElement('span');
      text.textContent = labelOf(each);
      label.append(input, text);
      return label;
    }),
  );
}
