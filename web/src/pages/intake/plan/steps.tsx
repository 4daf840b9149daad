import { closestCenter, DndContext, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { changePlan, conversionOf, removeStep, stepOn } from '@zusammen/core/intake';
import {
  fieldLabel,
  linkProposals,
  moveStep,
  referencesTo,
  refersTo,
  stepName,
  takeLink,
  type LinkProposal,
  type Step,
} from '@zusammen/core/plans';
import { useState, type ReactNode } from 'react';
import { cx } from '../../../parts/cx.ts';
import { Choices, Editable } from '../../../parts/editable.tsx';
import { Key } from '../../../parts/key.tsx';
import { useKeys } from '../../../parts/keys.ts';
import { useDraft } from '../draft.tsx';
import { EntityPicker } from './entity-picker.tsx';
import { outcomeInWords } from './outcomes.tsx';
import { PlanText } from './plan-text.tsx';
import { useSuggest } from './suggest.ts';

const newId = (): string => crypto.randomUUID().slice(0, 8);

/** What a submission does, in order: steps, how they hang together, what could be linked, and what a refusal means. */
export function Steps({ chosen, choose }: { chosen: Step | undefined; choose: (id: string | undefined) => void }) {
  const { document, change, mayEdit, findings } = useDraft();
  const [said, setSaid] = useState('');
  const [reading, setReading] = useState(false);
  const { steps } = document.plan;
  const move = (from: number, to: number): void => {
    if (from < 0 || to < 0 || to >= steps.length || from === to) return;
    change((held) => changePlan(held, (plan) => moveStep(plan, from, to)));
    setSaid(`Now step ${to + 1} of ${steps.length}.`);
  };
  const at = steps.findIndex(({ id }) => id === chosen?.id);
  useKeys({
    ...Object.fromEntries(steps.slice(0, 9).map(({ id }, index) => [String(index + 1), () => choose(id)])),
    ...(mayEdit ? { 'alt+ArrowUp': () => move(at, at - 1), 'alt+ArrowDown': () => move(at, at + 1) } : {}),
  });
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const drop = ({ active, over }: DragEndEvent): void => {
    const index = (id: unknown): number => steps.findIndex((step) => step.id === id);
    if (over) move(index(active.id), index(over.id));
  };
  const troubled = (id: string): boolean => findings.some(({ place }) => place.step === id);
  return (
    <section aria-label="Steps" className="space-y-2">
      <div className="flex items-center justify-between px-1">
        <h2 className="text-small font-semibold text-soft">
          {conversionOf(document) ? 'What becomes of a record' : 'What a submission does'}
        </h2>
        {mayEdit && <AddStep choose={choose} say={setSaid} />}
      </div>
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
        <SortableContext items={steps.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
          <ol>
            {steps.map((step, index) => (
              <StepCard
                key={step.id}
                step={step}
                index={index}
                chosen={step.id === chosen?.id}
                troubled={troubled(step.id)}
                last={index === steps.length - 1}
                choose={() => choose(step.id)}
              />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      <p className="px-1 text-small text-soft empty:hidden" aria-live="polite">
        {said}
      </p>
      {mayEdit && <Proposals choose={choose} />}
      {steps.length > 1 && <OnRefusal />}
      {steps.length > 0 && (
        <p className="flex flex-wrap items-center gap-x-3 px-1 text-small">
          <button
            type="button"
            className="min-h-6 font-semibold text-plum hover:underline"
            onClick={() => setReading(true)}
          >
            as text
          </button>
          {mayEdit && chosen && (
            <button
              type="button"
              className="min-h-6 text-soft hover:text-brick hover:underline"
              onClick={() => {
                const gone = referencesTo(document.plan, chosen.id);
                change((held) => removeStep(held, chosen.id));
                choose(steps.find(({ id }) => id !== chosen.id)?.id);
                setSaid(
                  gone === 0 ? 'Step removed.' : `Step removed, and ${gone} that came from it. Ctrl Z brings it back.`,
                );
              }}
            >
              remove this step
            </button>
          )}
          {mayEdit && steps.length > 1 && (
            <span className="inline-flex items-center gap-1 text-soft">
              <Key name="Alt ↑" /> <Key name="Alt ↓" /> move
            </span>
          )}
        </p>
      )}
      {reading && <PlanText close={() => setReading(false)} />}
    </section>
  );
}

function StepCard({
  step,
  index,
  chosen,
  troubled,
  last,
  choose,
}: {
  step: Step;
  index: number;
  chosen: boolean;
  troubled: boolean;
  last: boolean;
  choose: () => void;
}) {
  const { document, schemas, mayEdit, systems } = useDraft();
  const { steps } = document.plan;
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: step.id, disabled: !mayEdit });
  const leads = steps.slice(index + 1).filter((later) => refersTo(later).includes(step.id));
  const severalSystems = new Set(steps.map(({ system }) => system)).size > 1;
  return (
    <li
      ref={setNodeRef}
      style={{
        transform: transform ? `translate(0, ${transform.y}px)` : undefined,
        transition,
      }}
      className={cx(isDragging && 'relative z-20 opacity-90')}
    >
      <button
        type="button"
        onPointerDown={listeners?.['onPointerDown'] as ((event: React.PointerEvent) => void) | undefined}
        onClick={choose}
        aria-current={chosen ? 'step' : undefined}
        data-step={step.id}
        className={cx(
          'sheet block w-full touch-none px-3 py-2 text-left hover:bg-wash',
          chosen && 'border-plum shadow-[inset_4px_0_0_var(--color-plum)]',
        )}
      >
        <span className="flex items-baseline justify-between gap-2">
          <span className="truncate font-semibold">
            {stepName(step, steps, schemas)}
            {troubled && (
              <span className="ml-1.5 text-saffron" title="Has checks to settle">
                ◆
              </span>
            )}
          </span>
          {steps.length > 1 && index < 9 && <Key name={String(index + 1)} />}
        </span>
        <span className="block truncate text-small text-soft">
          {outcomeInWords(step)}
          {step.repeat !== undefined && `, for every row of ${step.repeat}`}
          {severalSystems && ` · ${systems.find(({ id }) => id === step.system)?.name ?? ''}`}
        </span>
      </button>
      {!last && (
        <div className="ml-5 min-h-3 border-l border-dashed border-line py-1 pl-3 text-small text-soft">
          {leads.map((later) => (
            <p key={later.id} className="truncate">
              {leadsTo(step, later)}
            </p>
          ))}
        </div>
      )}
    </li>
  );

  function leadsTo(from: Step, later: Step): string {
    const filled = later.lines.filter(({ fromStep }) => fromStep?.step === from.id);
    const name = stepName(later, steps, schemas);
    if (later.record?.step === from.id) return 'comes up once more below';
    const fields = filled.map(({ field }) => fieldLabel(later, field, schemas).toLowerCase());
    const first = filled.some(({ fromStep }) => fromStep?.row === 'first');
    return `${first ? 'the first becomes' : 'becomes'} ${name}’s ${fields.join(' and ')}`;
  }
}

function AddStep({ choose, say }: { choose: (id: string) => void; say: (what: string) => void }) {
  const { document, change } = useDraft();
  const suggest = useSuggest();
  const [busy, setBusy] = useState(false);
  const add = async (chosen: string): Promise<void> => {
    const [system, name] = chosen.split(' ') as [string, string];
    const before = document.plan.steps;
    const fresh = stepOn(document, newId(), system, name);
    setBusy(true);
    try {
      const after = await suggest.withStep(before, fresh);
      change((held) => changePlan(held, (plan) => ({ ...plan, steps: after })));
      choose(fresh.id);
      say(whatMoved(before, after, fresh.id));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Editable label="Add a step" bare wide className="text-small text-plum" shown={busy ? 'suggesting…' : 'Add step'}>
      {(close) => (
        <EntityPicker
          choose={(value) => {
            void add(value);
            close();
          }}
        />
      )}
    </Editable>
  );
}

/** Lines that left a step for the new one are named: nothing moves in silence. */
function whatMoved(before: readonly Step[], after: readonly Step[], fresh: string): string {
  const mine = new Set(after.find(({ id }) => id === fresh)?.lines.flatMap(({ from }) => from) ?? []);
  const moved = before.flatMap(({ lines }) => lines.filter(({ from }) => from.some((name) => mine.has(name)))).length;
  return moved === 0
    ? ''
    : `${moved === 1 ? 'One line' : `${moved} lines`} moved to the new step, where ${moved === 1 ? 'it fits' : 'they fit'} better.`;
}

/** Links that the schema's relations offer and nothing sets yet. */
function Proposals({ choose }: { choose: (id: string) => void }) {
  const { document, schemas, change } = useDraft();
  const { steps } = document.plan;
  const proposals = linkProposals(steps, schemas);
  const nameOf = (id: string): string => {
    const step = steps.find((each) => each.id === id);
    return step ? stepName(step, steps, schemas) : '';
  };
  const first = (id: string): string => (steps.find((each) => each.id === id)?.repeat === undefined ? '' : 'first ');
  const accept = (proposal: LinkProposal): void => {
    const id = newId();
    change((held) => changePlan(held, (plan) => takeLink(plan, proposal, id, schemas)));
    choose(proposal.kind === 'line' ? proposal.step : id);
  };
  if (proposals.length === 0) return null;
  return (
    <ul className="space-y-1 rounded-[8px] bg-sand px-3 py-2 text-small" aria-label="Links proposed">
      {proposals.map((proposal) => (
        <Proposal key={`${proposal.kind} ${proposal.step} ${proposal.field}`} add={() => accept(proposal)}>
          {proposal.kind === 'line'
            ? `${nameOf(proposal.step)}’s ${proposal.label.toLowerCase()}: the ${nameOf(proposal.earlier)}`
            : `then ${nameOf(proposal.earlier)}’s ${proposal.label.toLowerCase()}: the ${first(proposal.step)}${nameOf(proposal.step)}`}
        </Proposal>
      ))}
    </ul>
  );
}

function Proposal({ children, add }: { children: ReactNode; add: () => void }) {
  return (
    <li className="flex items-baseline justify-between gap-2">
      <span>{children}</span>
      <button type="button" className="min-h-6 shrink-0 font-semibold text-plum hover:underline" onClick={add}>
        link
      </button>
    </li>
  );
}

function OnRefusal() {
  const { document, change, mayEdit } = useDraft();
  const chosen = document.plan.onRefusal ?? 'keep';
  return (
    <p className="px-1 text-small text-soft">
      If a step is refused,{' '}
      <Editable
        label="If a step is refused"
        disabled={!mayEdit}
        className="text-ink"
        shown={chosen === 'keep' ? 'keep what was done and ask' : 'take it all back'}
      >
        {(close) => (
          <Choices
            options={[
              {
                value: 'keep' as const,
                label: 'keep what was done and ask',
                help: 'Mended, the rest goes on where it stopped.',
              },
              {
                value: 'take back' as const,
                label: 'take it all back',
                help: 'As far as nobody has changed it since; what can’t be is said.',
              },
            ]}
            chosen={chosen}
            choose={(onRefusal) => {
              change((held) => changePlan(held, (plan) => ({ ...plan, onRefusal })));
              close();
            }}
          />
        )}
      </Editable>
    </p>
  );
}
