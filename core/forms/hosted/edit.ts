import { fold } from '../../values/index.ts';
import { isChoice, isQuestion, type ItemKind } from './kinds.ts';
import type { Shown } from './condition.ts';
import type { Charge, Fee } from './fee.ts';
import { drawnName, fileName } from './files.ts';
import type { HostedForm, HostedPage, Item } from './model.ts';
import { alongWith, shownName, wordingOf } from './answers.ts';

/** Editing a form's document; what is given is left as it was. An item that isn't there changes nothing. */

/** An item where it stands. */
export interface Standing {
  item: Item;
  page: number;
  /** The groups it stands in, the outermost first. */
  groups: readonly Item[];
  /** What its answer is sent as; in a group, that of the group's first row. '' where nothing is sent. */
  name: string;
}

/** All of a form's items in the order in which they are shown, those of a group behind it. */
export function standingsOf(form: Pick<HostedForm, 'pages'>): Standing[] {
  const within = (items: readonly Item[], page: number, groups: readonly Item[], row: string): Standing[] =>
    items.flatMap((item) => {
      const name = item.name === undefined ? '' : row === '' ? item.name : `${row}[${item.name}]`;
      return [{ item, page, groups, name }, ...within(item.items ?? [], page, [...groups, item], `${name}[0]`)];
    });
  return form.pages.flatMap(({ items }, page) => within(items, page, [], ''));
}

export const standingOf = (form: Pick<HostedForm, 'pages'>, id: string): Standing | undefined =>
  standingsOf(form).find(({ item }) => item.id === id);

/** Where a new item goes: behind another, at the end of a group, or at the end of the form. */
export interface Place {
  after?: string | undefined;
  into?: string | undefined;
}

export function insertItem<F extends Pick<HostedForm, 'pages'>>(form: F, item: Item, { after, into }: Place = {}): F {
  if (into !== undefined)
    return changeItem(form, into, (group) => ({ ...group, items: [...(group.items ?? []), item] }));
  if (after !== undefined && standingOf(form, after))
    return eachList(form, (items) => {
      const at = items.findIndex(({ id }) => id === after);
      return at < 0 ? items : items.toSpliced(at + 1, 0, item);
    });
  const pages = form.pages.map((page, at) =>
    at === form.pages.length - 1 ? { ...page, items: [...page.items, item] } : page,
  );
  return { ...form, pages };
}

/** @param work changes the item; its id stays */
export const changeItem = <F extends Pick<HostedForm, 'pages'>>(form: F, id: string, work: (item: Item) => Item): F =>
  eachList(form, (items) => {
    const at = items.findIndex((each) => each.id === id);
    return at < 0 ? items : items.with(at, { ...work(items[at]!), id });
  });

/** A form without an item, nor with what goes by its answer: a condition can't ask for what isn't asked any more. */
export function removeItem(form: HostedForm, id: string): HostedForm {
  const gone = new Set(
    standingsOf(form)
      .filter(({ item, groups }) => item.id === id || groups.some((group) => group.id === id))
      .flatMap(({ item, name }) => (name === '' ? [] : [name, ...alongWith(item, name)])),
  );
  const without = eachList(form, (items) =>
    items.some((each) => each.id === id) ? items.filter((each) => each.id !== id) : items,
  );
  return changeNames(without, (name) => (gone.has(name) ? undefined : name));
}

/**
 * Moves an item one place up or down among those it stands with; at the edge of its page, to the page before or after.
 */
export function moveItem(form: HostedForm, id: string, by: 1 | -1): HostedForm {
  const standing = standingOf(form, id);
  if (!standing) return form;
  const among = standing.groups.at(-1)?.items ?? form.pages[standing.page]!.items;
  const at = among.findIndex((each) => each.id === id);
  const other = among[at + by];
  if (other)
    return eachList(form, (items) => (items === among ? items.with(at, other).with(at + by, standing.item) : items));
  const to = standing.page + by;
  if (standing.groups.length > 0 || !form.pages[to]) return form;
  const pages = form.pages.map((page, index): HostedPage => {
    if (index === standing.page) return { ...page, items: page.items.filter((each) => each.id !== id) };
    if (index !== to) return page;
    return { ...page, items: by > 0 ? [standing.item, ...page.items] : [...page.items, standing.item] };
  });
  return { ...form, pages };
}

/**
 * Puts an item before another, or behind it; into that one's group or out of its own. Names that go by its answer follow,
 * so far as they can be asked from there.
 */
export function placeItem(form: HostedForm, id: string, by: { before?: string; after?: string }): HostedForm {
  const standing = standingOf(form, id);
  const next = by.before ?? by.after;
  const other = next === undefined ? undefined : standingOf(form, next);
  const isWithin = other?.groups.some((group) => group.id === id);
  const isTooDeep = standing?.item.kind === 'group' && (other?.groups.length ?? 0) + depthOf(standing.item) > 2;
  if (!standing || !other || next === id || isWithin || isTooDeep) return form;
  const without = eachList(form, (items) =>
    items.some((each) => each.id === id) ? items.filter((each) => each.id !== id) : items,
  );
  return eachList(without, (items) => {
    const at = items.findIndex((each) => each.id === next);
    return at < 0 ? items : items.toSpliced(by.before === undefined ? at + 1 : at, 0, standing.item);
  });
}

/** How deep groups stand in a group, itself included. */
const depthOf = (group: Item): number =>
  1 + Math.max(0, ...(group.items ?? []).filter(({ kind }) => kind === 'group').map(depthOf));

/** From an item on, the page goes on as another one; at a page's first item, that page is joined with the one before. */
export function breakPage(form: HostedForm, id: string, newId: string): HostedForm {
  const standing = standingOf(form, id);
  if (!standing || standing.groups.length > 0) return form;
  const { pages } = form;
  const page = pages[standing.page]!;
  const at = page.items.findIndex((each) => each.id === id);
  if (at === 0) {
    const before = pages[standing.page - 1];
    if (!before) return form;
    const joined = { ...before, items: [...before.items, ...page.items] };
    return { ...form, pages: pages.toSpliced(standing.page - 1, 2, joined) };
  }
  const [first, second] = [
    { ...page, items: page.items.slice(0, at) },
    { id: newId, items: page.items.slice(at) },
  ];
  return { ...form, pages: pages.toSpliced(standing.page, 1, first, second) };
}

/** An item as another kind: what the new one has no use for is left out, what it can't be without is begun. */
export function withKind(item: Item, kind: ItemKind, language: string): Item {
  const { id, name, label, help, required, shown, options, maxLength, least, most, decimals, begins } = item;
  const next: Item = { id, kind, label };
  if (help) next.help = help;
  if (shown) next.shown = shown;
  if (!isQuestion(kind)) return next;
  next.name = name ?? id;
  if (required) next.required = required;
  if (begins) next.begins = begins;
  if (isChoice(kind)) {
    next.options = options ?? [
      { value: 'first', label: { [language]: 'First' } },
      { value: 'second', label: { [language]: 'Second' } },
    ];
    if (item.reads) next.reads = item.reads;
  }
  if (['text', 'long text', 'email', 'web address'].includes(kind) && maxLength !== undefined)
    next.maxLength = maxLength;
  if (kind === 'hidden' && item.holds) next.holds = item.holds;
  if (kind === 'file') {
    if (item.accepts) next.accepts = item.accepts;
    if (item.mostMebibytes !== undefined) next.mostMebibytes = item.mostMebibytes;
  }
  if (kind === 'number' || kind === 'money') {
    if (least !== undefined) next.least = least;
    if (most !== undefined) next.most = most;
    if (decimals !== undefined && kind === 'number') next.decimals = decimals;
    if (kind === 'money') next.currency = item.currency ?? 'EUR';
  }
  return next;
}

/** A name that no item beside it has. @param wanted anything; what a name can't have is left out */
export function freeName(form: Pick<HostedForm, 'pages'>, wanted: string, into?: string): string {
  const plain = fold(wanted.slice(0, 200))
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^[^a-z]+/, '')
    .slice(0, 50)
    .replace(/_$/, '');
  const name = plain === '' ? 'question' : plain;
  const group = into === undefined ? undefined : standingOf(form, into)?.item;
  const beside = group ? (group.items ?? []) : form.pages.flatMap(({ items }) => items);
  const along = (each: string): string[] => [
    each,
    ...[wordingOf, shownName, fileName, drawnName].map((beside) => beside(each)),
  ];
  const taken = new Set(beside.flatMap((each) => (each.name === undefined ? [] : along(each.name))));
  const isFree = (tried: string): boolean => along(tried).every((each) => !taken.has(each));
  for (let at = 1; ; at += 1) {
    const tried = at === 1 ? name : `${name}_${at}`;
    if (isFree(tried)) return tried;
  }
}

/**
 * A form whose conditions, limits and fillings go by other names.
 * @param now what a name has become; undefined: it isn't asked any more, and what went by it is left out
 */
export function changeNames(form: HostedForm, now: (name: string) => string | undefined): HostedForm {
  const shownBy = (shown: Shown | undefined): Shown | undefined => {
    if (!shown) return undefined;
    const parts = shown.parts.flatMap((part) => {
      const field = now(part.field);
      return field === undefined ? [] : field === part.field ? [part] : [{ ...part, field }];
    });
    return parts.length === 0 ? undefined : { ...shown, parts };
  };
  const changed = (item: Item): Item => {
    const { shown, earliest, latest, items, reads, ...rest } = item;
    const next: Item = rest;
    const seen = shownBy(shown);
    if (seen) next.shown = seen;
    for (const [side, limit] of [
      ['earliest', earliest],
      ['latest', latest],
    ] as const) {
      if (!limit) continue;
      const answer = limit.answer === undefined ? undefined : now(limit.answer);
      if (limit.answer === undefined) next[side] = limit;
      else if (answer !== undefined) next[side] = { ...limit, answer };
    }
    if (reads) next.reads = readsBy(reads, now);
    if (items) next.items = items.map(changed);
    return next;
  };
  const fee = form.fee && feeBy(form.fee, now, shownBy);
  const { fee: _, ...whole } = form;
  return {
    ...whole,
    ...(fee ? { fee } : {}),
    pages: form.pages.map((page) => {
      const { shown, ...rest } = page;
      const seen = shownBy(shown);
      return { ...rest, ...(seen ? { shown: seen } : {}), items: page.items.map(changed) };
    }),
  };
}

/** A fee by other names. What is priced by a question that isn't asked any more is charged no more. */
function feeBy(
  fee: Fee,
  now: (name: string) => string | undefined,
  shownBy: (shown: Shown | undefined) => Shown | undefined,
): Fee | undefined {
  const charges = fee.charges.flatMap(({ shown, question, times, ...charge }): Charge[] => {
    const [asked, often] = [question && now(question), times && now(times)];
    if ((question !== undefined && asked === undefined) || (times !== undefined && often === undefined)) return [];
    const seen = shownBy(shown);
    return [
      {
        ...charge,
        ...(asked === undefined ? {} : { question: asked }),
        ...(often === undefined ? {} : { times: often }),
        ...(seen ? { shown: seen } : {}),
      },
    ];
  });
  return charges.length === 0 ? undefined : { ...fee, charges };
}

function readsBy(
  reads: NonNullable<Item['reads']>,
  now: (name: string) => string | undefined,
): NonNullable<Item['reads']> {
  const next = { ...reads };
  if (reads.where)
    next.where = reads.where.flatMap((part) => {
      if (part.answer === undefined) return [part];
      const answer = now(part.answer);
      return answer === undefined ? [] : [{ ...part, answer }];
    });
  if (reads.fills)
    next.fills = reads.fills.flatMap((fill) => {
      const into = now(fill.into);
      return into === undefined ? [] : [{ ...fill, into }];
    });
  return next;
}

/** A form whose lists of items are changed, those of groups too. */
function eachList<F extends Pick<HostedForm, 'pages'>>(form: F, work: (items: Item[]) => Item[]): F {
  const within = (items: Item[]): Item[] => {
    const inside = items.map((item) => {
      if (!item.items) return item;
      const next = within(item.items);
      return next === item.items ? item : { ...item, items: next };
    });
    return work(inside.every((item, at) => item === items[at]) ? items : inside);
  };
  const pages = form.pages.map((page) => {
    const items = within(page.items);
    return items === page.items ? page : { ...page, items };
  });
  return pages.every((page, at) => page === form.pages[at]) ? form : { ...form, pages };
}
