import { rowName, TEMPLATE_ROW, type Words } from '@zusammen/core/forms/hosted';

const rowsOf = (group: Element): HTMLElement[] =>
  [...group.children].filter(
    (child): child is HTMLElement => child instanceof HTMLElement && child.dataset['row'] !== undefined,
  );

const groupOf = (root: HTMLFormElement, name: string): HTMLElement | null =>
  root.querySelector<HTMLElement>(`[data-group="${CSS.escape(name)}"]`);

/** Adds a row to a group, where there is room, and goes to its first question. */
export function addRow(root: HTMLFormElement, name: string): void {
  const group = groupOf(root, name);
  const template = group?.querySelector<HTMLTemplateElement>(':scope > template');
  if (!group || !template || rowsOf(group).length >= Number(group.dataset['most'])) return;
  const taken = rowsOf(group).map((row) => Number(/\[(\d+)\]$/.exec(row.dataset['row']!)?.[1]));
  const fresh = Math.max(-1, ...taken) + 1;
  const html = document.createElement('template');
  const idOf = (row: number): string => `q-${rowName(name, row).replace(/[[\]]+/g, '-')}`;
  html.innerHTML = template.innerHTML
    .replaceAll(rowName(name, TEMPLATE_ROW), rowName(name, fresh))
    .replaceAll(idOf(TEMPLATE_ROW), idOf(fresh));
  const row = html.content.firstElementChild!;
  template.before(row);
  row.querySelector<HTMLElement>('input:not([type=hidden]), select, textarea')?.focus();
}

/** Takes a row away, and goes on to what adds one. */
export function takeRow(root: HTMLFormElement, row: string): void {
  const there = root.querySelector<HTMLElement>(`[data-row="${CSS.escape(row)}"]`);
  const group = there?.parentElement;
  there?.remove();
  group?.querySelector<HTMLElement>(':scope > .more')?.focus();
}

/** Numbers rows as they stand, and offers one more, or one less, where that may be. */
export function numberRows(root: HTMLFormElement, words: Words): void {
  for (const group of root.querySelectorAll<HTMLElement>('[data-group]')) {
    const rows = rowsOf(group);
    rows.forEach((row, at) => {
      row.querySelector(':scope > legend')!.textContent = words.row(at + 1);
      row.querySelector<HTMLElement>(':scope > .less')!.hidden = rows.length <= Number(group.dataset['least']);
    });
    const more = group.querySelector<HTMLElement>(':scope > .more');
    if (more) more.hidden = rows.length >= Number(group.dataset['most']);
  }
}
