import type { HostedForm, Item } from '@zusammen/core/forms/hosted';

/** What has been filled in, as it would be sent; what goes along unseen isn't an answer. */
export function answersIn(root: HTMLFormElement): Record<string, string | string[]> {
  const answers: Record<string, string | string[]> = {};
  new FormData(root).forEach((said, name) => {
    if (typeof said !== 'string' || name.startsWith('_')) return;
    const held = Object.hasOwn(answers, name) ? answers[name] : undefined;
    answers[name] = held === undefined ? said : [held].flat().concat(said);
  });
  // Several choices are several also where one is made or none.
  for (const box of root.querySelectorAll<HTMLInputElement>('.q-several-of input')) {
    const held = Object.hasOwn(answers, box.name) ? answers[box.name]! : [];
    answers[box.name] = [held].flat();
  }
  return answers;
}

/** Fills in what was kept; rows that aren't there are added. */
export function fillIn(
  root: HTMLFormElement,
  answers: Readonly<Record<string, string | string[]>>,
  addRow: (group: string) => void,
): void {
  for (const [name, said] of Object.entries(answers)) {
    for (let at = name.indexOf(']'); at >= 0 && at < name.length - 1; at = name.indexOf(']', at + 1)) {
      const row = name.slice(0, at + 1);
      const group = row.slice(0, row.lastIndexOf('['));
      const number = /\[(\d{1,4})\]$/.exec(row)?.[1];
      // Rows are added in order, so the one that is missing is the next few.
      for (let tries = 0; number !== undefined && tries < 50 && !rowOf(root, row); tries += 1) addRow(group);
    }
    const values = [said].flat();
    offerKept(root, name, values);
    for (const control of root.elements) {
      // What a file's box holds, only its visitor says.
      if (!isControl(control) || control.name !== name || control.type === 'file') continue;
      if (control.type === 'checkbox' || control.type === 'radio')
        (control as HTMLInputElement).checked = values.includes(control.value);
      else control.value = values[0] ?? '';
    }
  }
}

/** Lists of records are read later: what was chosen among them stands there until then. */
function offerKept(root: HTMLFormElement, name: string, values: readonly string[]): void {
  const list = root.querySelector<HTMLElement>(
    `select[data-reads][name="${CSS.escape(name)}"], .offered[data-name="${CSS.escape(name)}"]`,
  );
  for (const value of list ? values : []) {
    if (value === '' || list!.querySelector(`[value="${CSS.escape(value)}"]`)) continue;
    if (list instanceof HTMLSelectElement) list.append(new Option(value, value));
    else list!.append(Object.assign(document.createElement('input'), { type: 'checkbox', name, value }));
  }
}

const rowOf = (root: HTMLFormElement, row: string): Element | null =>
  root.querySelector(`[data-row="${CSS.escape(row)}"]`);

const isControl = (element: Element): element is HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement =>
  element instanceof HTMLInputElement || element instanceof HTMLSelectElement || element instanceof HTMLTextAreaElement;

/** Names of questions whose answers are never kept here, whatever row they stand in. */
export function sensitiveNames({ pages }: Pick<HostedForm, 'pages'>): ReadonlySet<string> {
  const within = (items: readonly Item[]): string[] =>
    items.flatMap((item) => [
      ...(item.sensitive && item.name !== undefined ? [item.name] : []),
      ...within(item.items ?? []),
    ]);
  return new Set(pages.flatMap(({ items }) => within(items)));
}

/** A question's own name, without the rows it stands in: `email` of `contacts[2][email]`. */
export const ownName = (name: string): string => /\[([A-Za-z]\w*)\]$/.exec(name)?.[1] ?? name;
