import {
  canBeFilledIn,
  filledBy,
  fillFromParent,
  fromParents,
  type FillingIn,
  type FromParent,
} from '@zusammen/core/asking';
import type { Step } from '@zusammen/core/plans';
import { Button } from '../../../parts/button.tsx';
import { Outgoing } from '../../../parts/chip.tsx';
import { Editable } from '../../../parts/editable.tsx';
import { useDraft } from '../draft.tsx';
import type { Editing } from './editing.tsx';

const WAYS: [how: FillingIn, words: string][] = [
  ['shown', 'filled in and shown'],
  ['unseen', 'filled in'],
  ['left blank', 'only if left blank'],
];

/** What the record that the form is opened with could fill of what a step makes: its relation, its owner, what is called alike. */
export function FromTheParent({ step, editing }: { step: Step; editing: Editing }) {
  const { document, schemas, mayEdit, change } = useDraft();
  const offered = fromParents(document, step.id, editing.asking);
  if (offered.length === 0 || !mayEdit) return null;
  const entities = schemas.get(step.system)?.entities ?? [];
  const labelOf = (name: string): string => entities.find((each) => each.name === name)?.label ?? name;
  const said = ({ from }: FromParent): string =>
    from
      .map(({ entity, field }) => (field ? `${labelOf(entity)}: ${field.label}` : `the ${labelOf(entity)} itself`))
      .join(', ');
  const take = (field: string, how: FillingIn): void =>
    change((held) => fillFromParent(held, step.id, field, how, editing.asking));
  // What visitors are asked for stays a question, unless somebody says otherwise of it.
  const asked = filledBy(editing.form, step);
  const free = offered.filter(({ field, why }) => !asked.has(field.name) && why !== 'same meaning');
  const all = (): void =>
    change((held) =>
      free.reduce((now, { field }) => fillFromParent(now, step.id, field.name, 'unseen', editing.asking), held),
    );
  return (
    <section aria-label="From the page’s record" className="mt-1 border-t border-hair pt-1">
      <h4 className="flex items-baseline justify-between gap-2 text-small text-soft">
        From the page’s record
        {free.length > 1 && (
          <button type="button" className="min-h-6 text-plum hover:underline" onClick={all}>
            fill in {free.length === offered.length ? `all ${free.length}` : `the ${free.length} nobody is asked for`}
          </button>
        )}
      </h4>
      <ul>
        {offered.map((each) => (
          <li key={each.field.name} className="flex items-baseline justify-between gap-2 py-0.5" title={said(each)}>
            <span className="min-w-0">
              <Outgoing muted>{each.field.label}</Outgoing>
            </span>
            <Editable
              label={`Fill in ${each.field.label}`}
              bare
              className="shrink-0 text-small text-plum"
              shown="fill in"
            >
              {(close) => (
                <div className="flex w-[250px] flex-col items-start gap-1 p-2">
                  <p className="text-small text-soft">With {said(each)}</p>
                  {WAYS.filter(([how]) => canBeFilledIn(step, each, how)).map(([how, words]) => (
                    <Button
                      key={how}
                      onClick={() => {
                        take(each.field.name, how);
                        close();
                      }}
                    >
                      {words}
                    </Button>
                  ))}
                </div>
              )}
            </Editable>
          </li>
        ))}
      </ul>
    </section>
  );
}
