import { across, freshLine, standing, type PairLine, type Side } from '@zusammen/core/pairing';
import type { Field } from '@zusammen/core/schema';
import { useState } from 'react';
import { call } from '../../api/client.ts';
import { useDo } from '../../api/hooks.ts';
import { Sheet } from '../../parts/sheet.tsx';
import { count } from '../../parts/time.tsx';
import type { Editing } from './pairing.tsx';

/** Fields that are linked to nothing: whether they stay on their side by decision, or nobody has looked at them yet. */
export function FieldsLeft({ editing }: { editing: Editing }) {
  const [open, setOpen] = useState(false);
  const left = leftOn(editing, 'left');
  const right = leftOn(editing, 'right');
  const openOnes = [left, right].reduce((sum, { undecided }) => sum + undecided.length, 0);
  return (
    <Sheet
      title={
        <button type="button" aria-expanded={open} className="min-h-6 text-left" onClick={() => setOpen(!open)}>
          <span aria-hidden="true">{open ? '▾' : '▸'}</span> Fields in one system only
        </button>
      }
      aside={openOnes === 0 ? 'all decided' : `${count(openOnes)} not decided`}
    >
      {open && (
        <div className="grid grid-cols-2 gap-4 px-4 py-3 max-[900px]:grid-cols-1">
          <OneSide editing={editing} side="left" fields={left} />
          <OneSide editing={editing} side="right" fields={right} />
        </div>
      )}
    </Sheet>
  );
}

interface Left {
  decided: Field[];
  undecided: Field[];
}

/** The fields of a side that no line links, by whether somebody has said that they stay there. */
function leftOn({ document, around }: Editing, side: Side): Left {
  const at = around[side];
  if (!at) return { decided: [], undecided: [] };
  const linked = new Set([
    at.entity.key,
    ...standing(document).flatMap((line) => line[side].path.slice(0, 1)),
    ...document.matches.flatMap(({ parts }) => parts.map((part) => part[side][0]!)),
  ]);
  const only = new Set(side === 'left' ? document.onlyLeft : document.onlyRight);
  const free = at.entity.fields.filter(({ name, rights }) => rights !== 'none' && !linked.has(name));
  return { decided: free.filter(({ name }) => only.has(name)), undecided: free.filter(({ name }) => !only.has(name)) };
}

function OneSide({ editing, side, fields }: { editing: Editing; side: Side; fields: Left }) {
  const { change, mayEdit, pairing } = editing;
  const make = useMakeThere(editing, side);
  const there = pairing[across(side)].systemName;
  const name = side === 'left' ? 'onlyLeft' : 'onlyRight';
  const where = `only in ${pairing[side].systemName}`;
  const set = (names: (before: string[]) => string[]): void =>
    change((before) => ({ ...before, [name]: names(before[name]) }));
  return (
    <div>
      <p className="text-small font-semibold text-soft">
        {pairing[side].entityLabel}, {pairing[side].systemName}
      </p>
      <ul className="mt-1">
        {[...fields.undecided, ...fields.decided].map((field) => {
          const decided = fields.decided.includes(field);
          return (
            <li
              key={field.name}
              className="flex min-h-7 items-center justify-between gap-3 border-t border-hair first:border-t-0"
            >
              <span className="grow truncate">{field.label}</span>
              {mayEdit && !decided && pairing.makesFields[across(side)] && field.type !== 'reference' && (
                <button
                  type="button"
                  className="text-small text-plum hover:underline"
                  disabled={make.isPending}
                  aria-label={`Make ${field.label} in ${there}`}
                  onClick={() => make.mutate(field)}
                >
                  {make.isPending && make.variables === field ? 'being made …' : `make it in ${there}`}
                </button>
              )}
              {mayEdit ? (
                <button
                  type="button"
                  aria-pressed={decided}
                  aria-label={`${field.label} is ${where}`}
                  className={decided ? 'text-small text-moss' : 'text-small text-soft hover:text-ink hover:underline'}
                  onClick={() =>
                    set((before) => (decided ? before.filter((each) => each !== field.name) : [...before, field.name]))
                  }
                >
                  {decided ? `● ${where}` : `say: ${where}`}
                </button>
              ) : (
                decided && <span className="text-small text-soft">{where}</span>
              )}
            </li>
          );
        })}
      </ul>
      {make.error && (
        <p role="alert" className="mt-1 text-small text-brick">
          {make.error.message}
        </p>
      )}
      {mayEdit && fields.undecided.length > 1 && (
        <button
          type="button"
          className="mt-1 min-h-6 text-small font-semibold text-plum hover:underline"
          onClick={() => set((before) => [...before, ...fields.undecided.map((field) => field.name)])}
        >
          all of these {where}
        </button>
      )}
    </div>
  );
}

/**
 * Makes a field on the other side as it is on this one, of a kind that is there, and links the two: its values come from
 * here, until somebody says otherwise.
 */
function useMakeThere({ pairing, change }: Editing, side: Side) {
  const to = across(side);
  return useDo(
    async ({ name, label, type, options, maxLength }: Field) => {
      const made = await call('post /systems/:id/fields', {
        params: { id: pairing[to].system },
        body: {
          ...{ entity: pairing[to].entity, label, type },
          ...(options ? { options } : {}),
          ...(maxLength === undefined ? {} : { maxLength }),
        },
      });
      const [left, right] = side === 'left' ? [name, made.name] : [made.name, name];
      const line: PairLine = { ...freshLine(crypto.randomUUID(), [left], [right]), way: `to ${to}` };
      change((before) => ({ ...before, lines: [...before.lines, line] }));
    },
    ['systems', 'schemas', 'pairings'],
  );
}
