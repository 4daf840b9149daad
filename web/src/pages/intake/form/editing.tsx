import { addItem, askFor, editForm, stopAsking, type Asking } from '@zusammen/core/asking';
import {
  breakPage,
  changeItem,
  freeName,
  moveItem,
  placeItem,
  standingOf,
  standingsOf,
  withKind,
  type HostedForm,
  type Item,
  type ItemKind,
  type Standing,
} from '@zusammen/core/forms/hosted';
import { changeForm } from '@zusammen/core/intake';
import { useMemo, useState } from 'react';
import { useChosenInAddress } from '../../../parts/chosen-in-address.ts';
import { useDraft } from '../draft.tsx';
import { kindInWords } from './kinds.ts';

export const newId = (): string => crypto.randomUUID().slice(0, 8);

/** Editing the form of an intake: what there is, which of it is chosen, and what can be done with it. */
export interface Editing {
  form: HostedForm;
  /** In which language it is shown and worded. */
  language: string;
  speak: (language: string) => void;
  standings: readonly Standing[];
  chosen: Standing | undefined;
  choose: (id: string | undefined) => void;
  /** The words of this item are being edited where they stand. */
  wording: string | undefined;
  word: (id: string | undefined) => void;
  mayEdit: boolean;
  asking: Asking;
  change: (id: string, work: (item: Item) => Item) => void;
  changeWhole: (work: (form: HostedForm) => HostedForm) => void;
  move: (id: string, by: 1 | -1) => void;
  drop: (id: string, by: { before?: string; after?: string }) => void;
  breakAt: (id: string) => void;
  remove: (id: string) => void;
  ask: (step: string, field: string) => void;
  add: (kind: ItemKind) => void;
}

/** @returns undefined where the intake's form is none of ours */
export function useEditing(): Editing | undefined {
  const { document, change, mayEdit, schemas } = useDraft();
  const [picked, choose] = useChosenInAddress('q');
  const [wording, setWording] = useState<string>();
  const [spoken, setSpoken] = useState<string>();
  const { form } = document;
  const standings = useMemo(() => (form ? standingsOf(form) : []), [form]);
  if (!form) return undefined;
  const language = spoken !== undefined && form.languages.includes(spoken) ? spoken : form.languages[0]!;
  const chosen = standings.find(({ item }) => item.id === picked);
  const asking: Asking = { schemas, newId };
  return {
    ...{ form, language, speak: setSpoken, standings, chosen, choose, wording, word: setWording, mayEdit, asking },
    change: (id, work) => change((held) => changeForm(held, (now) => changeItem(now, id, work))),
    changeWhole: (work) => change((held) => changeForm(held, work)),
    move: (id, by) => change((held) => editForm(held, (now) => moveItem(now, id, by))),
    drop: (id, by) => change((held) => editForm(held, (now) => placeItem(now, id, by))),
    breakAt: (id) => change((held) => editForm(held, (now) => breakPage(now, id, newId()))),
    remove: (id) => {
      const at = standings.findIndex(({ item }) => item.id === id);
      choose((standings[at + 1] ?? standings[at - 1])?.item.id);
      change((held) => stopAsking(held, id));
    },
    ask: (step, field) => {
      const next = askFor(document, step, field, asking);
      const before = new Set(standings.map(({ item }) => item.id));
      const added = next.form && standingsOf(next.form).find(({ item }) => !before.has(item.id));
      // Done again on what there is by then: the same as was looked at, unless somebody was quicker.
      change((held) => (held === document ? next : askFor(held, step, field, asking)));
      if (added) choose(added.item.id);
    },
    add: (kind) => {
      const id = newId();
      change((held) =>
        addItem(held, ownItem(held.form!, id, kind, language, chosen), placeFor(held.form!, chosen, kind)),
      );
      choose(id);
      setWording(id);
    },
  };
}

/** Behind the chosen item; in a group that is chosen, at its end. */
function placeFor(form: HostedForm, chosen: Standing | undefined, kind: ItemKind): { after?: string; into?: string } {
  if (!chosen || !standingOf(form, chosen.item.id)) return {};
  // Groups stand in groups, and no deeper.
  const takesIt = chosen.item.kind === 'group' && (kind !== 'group' || chosen.groups.length === 0);
  return takesIt ? { into: chosen.item.id } : { after: chosen.item.id };
}

function ownItem(form: HostedForm, id: string, kind: ItemKind, language: string, chosen: Standing | undefined): Item {
  const label = kind === 'words' ? 'Words' : kind === 'heading' ? 'Heading' : kindInWords(kind).replace(/^an? /, '');
  const words = label[0]!.toUpperCase() + label.slice(1);
  const item: Item = withKind({ id, kind: 'text', label: { [language]: words } }, kind, language);
  if (kind === 'heading' || kind === 'words') return item;
  const group = chosen?.item.kind === 'group' ? chosen.item : chosen?.groups.at(-1);
  item.name = freeName(form, words, group?.id);
  if (kind === 'consent') item.label = { [language]: 'I agree that …' };
  if (kind === 'group') Object.assign(item, { items: [], leastRows: 1, mostRows: 6, label: { [language]: 'Rows' } });
  return item;
}
