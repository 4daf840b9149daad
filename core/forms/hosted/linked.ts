import type { Begins, HostedForm, Item, LinkedEntity, LinkedRecord } from './model.ts';

/** The entities of whose records one may open a form, the first first. */
export const linkedEntities = ({ entity, into, others = [] }: LinkedRecord): LinkedEntity[] => [
  { entity, into },
  ...others,
];

/** Which field a question begins with of a record that opened the form; undefined: with none of it. */
export function fieldBegunWith(begins: Begins, link: LinkedRecord, entity: string): string | undefined {
  if (begins.with !== 'record') return undefined;
  const field = entity === link.entity ? begins.value : begins.others?.find((each) => each.entity === entity)?.field;
  return field === '' ? undefined : field;
}

/** Whether a question is filled in where the form is kept, whatever its page sends: its visitor doesn't see it. */
export const isFilledUnseen = ({ kind, begins }: Pick<Item, 'kind' | 'begins'>): boolean =>
  kind === 'hidden' && (begins?.with === 'record' || begins?.with === 'person');

/** A form's questions outside of rows that begin with something of the record, or of whoever acts. */
export const begunItems = ({ pages }: Pick<HostedForm, 'pages'>): (Item & { name: string; begins: Begins })[] =>
  pages.flatMap(({ items }) =>
    items.flatMap((item) => {
      const { name, begins } = item;
      return name !== undefined && (begins?.with === 'record' || begins?.with === 'person')
        ? [{ ...item, name, begins }]
        : [];
    }),
  );

/** What stands in a panel's line in the place of the context that the page's system signs. */
export const SIGNED_CONTEXT = 'SIGNED-CONTEXT';

/** The line that shows a form as a panel on a record's page. @param own this installation's address */
export const panelLine = (own: string, key: string): string =>
  `<script src="${own}/embed.js" data-panel="${own}/f/${key}/panel" data-context="${SIGNED_CONTEXT}" async></script>`;
