import { changeNames, freeName, standingOf, standingsOf, type HostedForm, type Item } from '../forms/hosted/index.ts';
import { withForm, type IntakeDocument } from '../intake/index.ts';
import type { Asking } from './filled.ts';
import { addItem, fillWith, linesOf } from './ask.ts';

/** Taking questions from one form to another. */

/**
 * A document that has a question, words or a group of another as well, at its end. What goes by answers that aren't asked
 * there is left out; its lines come along where a step there is about the same records and the field isn't filled yet.
 * @returns the same document where there is nothing of this id
 */
export function copyItem(from: IntakeDocument, id: string, into: IntakeDocument, asking: Asking): IntakeDocument {
  const standing = from.form && standingOf(from.form, id);
  const { form } = into;
  if (!standing || !form) return into;
  const { item, name } = standing;
  const fresh = anew(item, form, asking.newId);
  if (item.name !== undefined) fresh.name = freeName(form, item.name);
  const added = addItem(into, fresh);
  const asked = new Set(standingsOf(added.form!).flatMap((each) => (each.name === '' ? [] : [each.name])));
  // A row's own questions are called otherwise where the group is.
  const here = (each: string): string =>
    fresh.name !== undefined && (each === name || each.startsWith(`${name}[`))
      ? fresh.name + each.slice(name.length)
      : each;
  const own = new Set(ids(fresh));
  const settled = changeOwn(added.form!, own, (each) => (asked.has(here(each)) ? here(each) : undefined));
  let document = withForm(added, settled);
  for (const { step, fields } of linesOf(from, name)) {
    const target = document.plan.steps.find(({ system, entity }) => system === step.system && entity === step.entity);
    if (!target || target.repeat !== undefined) continue;
    for (const field of fields) {
      const line = step.lines.find((each) => each.field === field)!;
      if (line.from.length === 1 && line.from[0] === name)
        document = fillWith(document, fresh.name!, target.id, field, asking);
    }
  }
  return document;
}

const ids = (item: Item): string[] => [item.id, ...(item.items ?? []).flatMap(ids)];

/** An item with ids of its own; what only its own form has (a link's record) is left out. */
function anew(item: Item, form: HostedForm, newId: () => string): Item {
  const next: Item = { ...structuredClone(item), id: newId() };
  if (next.begins?.with === 'record' && !form.link) delete next.begins;
  if (next.items) next.items = next.items.map((each) => anew(each, form, newId));
  return next;
}

/** A form in which only some items go by other names. */
function changeOwn(form: HostedForm, own: ReadonlySet<string>, now: (name: string) => string | undefined): HostedForm {
  const pages = form.pages.map((page) => ({
    ...page,
    items: page.items.map((item) =>
      own.has(item.id)
        ? changeNames({ ...form, pages: [{ id: 'alone', items: [item] }] }, now).pages[0]!.items[0]!
        : item,
    ),
  }));
  return { ...form, pages };
}
