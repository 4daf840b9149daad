import { placedPages, type HostedForm, type Placed } from '@zusammen/core/forms/hosted';
import { answersIn } from './answers.ts';

/** Shows the questions that apply to what has been answered, and hides the others. */
export function showWhatApplies(root: HTMLFormElement, form: HostedForm): void {
  const pages = placedPages(form, answersIn(root), (_group, name) =>
    [...root.querySelectorAll<HTMLElement>('[data-row]')].flatMap(({ dataset }) => {
      const row = dataset['row']!;
      return row.slice(0, row.lastIndexOf('[')) === name ? [Number(/\[(\d+)\]$/.exec(row)?.[1])] : [];
    }),
  );
  const apply = (placed: Placed): void => {
    for (const element of elementsOf(root, placed)) element.toggleAttribute('data-off', !placed.shown);
    for (const { items } of placed.rows ?? []) items.forEach(apply);
  };
  for (const { page, shown, items } of pages) {
    root.querySelector(`[data-page="${CSS.escape(page.id)}"]`)?.toggleAttribute('data-off', !shown);
    items.forEach(apply);
  }
}

function elementsOf(root: HTMLFormElement, { item, name }: Placed): Iterable<Element> {
  if (name === '') return root.querySelectorAll(`[data-item="${CSS.escape(item.id)}"]`);
  return root.querySelectorAll(`[data-${item.kind === 'group' ? 'group' : 'q'}="${CSS.escape(name)}"]`);
}
