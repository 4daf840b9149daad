import {
  DndContext,
  DragOverlay,
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import type { Finding } from '@zusammen/core/checks';
import type { FormField } from '@zusammen/core/forms';
import { prepareLine, wordingAgreedTo, type Line } from '@zusammen/core/mapping';
import {
  acceptLines,
  addLines,
  changeLine,
  constantLine,
  firstRows,
  linkLine,
  mayCreate,
  readNames,
  removeLine,
  withSource,
  type Step,
} from '@zusammen/core/plans';
import { fieldOf, mustBeGiven, type Entity } from '@zusammen/core/schema';
import { useEffect, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useActions } from '../../../parts/actions.ts';
import { Incoming } from '../../../parts/chip.tsx';
import { Key } from '../../../parts/key.tsx';
import { listKeys, useKeys } from '../../../parts/keys.ts';
import { useSteady } from '../../../parts/steady.ts';
import { useDraft } from '../draft.tsx';
import { FieldsLeft, unfilledOf } from './fields-left.tsx';
import { LineEditor } from './line-editor.tsx';
import { LineRow } from './line-row.tsx';
import { LinesTable } from './lines-table.tsx';
import { LinesFilter, linesIn, SHOWN, type Shown } from './lines-filter.tsx';
import { useStepSample } from './step-sample.ts';
import { useSuggest, whereOf } from './suggest.ts';

interface Props {
  step: Step;
  entity: Entity;
  edit: (work: (step: Step) => Step) => void;
  sample: number;
  setSample: (at: number) => void;
}

const NO_FINDINGS: readonly Finding[] = [];
const newId = (): string => crypto.randomUUID().slice(0, 8);

/** The lines with a real sample beside each: comes from, treated, goes in as, and what the record holds now. */
export function Lines({ step, entity, edit, sample, setSample }: Props) {
  const { document, samples, schemas, findings, mayEdit, undo, redo } = useDraft();
  const suggest = useSuggest();
  const [params, setParams] = useSearchParams();
  const [at, setAt] = useState(0);
  const [said, setSaid] = useState('');
  const schema = schemas.get(step.system);
  const set = (name: string, value: string | undefined): void =>
    setParams(
      (held) => {
        const next = new URLSearchParams(held);
        if (value === undefined) next.delete(name);
        else next.set(name, value);
        return next;
      },
      { replace: true },
    );
  const shown: Shown = SHOWN.find((each) => each === params.get('show')) ?? 'all';
  const asked = params.get('line');
  /** The line that is open; one that was removed, perhaps by a colleague, isn't. */
  const open = step.lines.find(({ id }) => id === asked)?.id;
  const byLine = useMemo(() => {
    const found = new Map<string, Finding[]>();
    for (const finding of findings) {
      const { line } = finding.place;
      if (line !== undefined && finding.place.step === step.id) found.set(line, [...(found.get(line) ?? []), finding]);
    }
    return found;
  }, [findings, step.id]);
  const lines = useMemo(() => linesIn(shown, step.lines, byLine), [shown, step.lines, byLine]);
  const used = useMemo(() => readNames(document), [document]);
  const taken = useMemo(() => new Set(step.lines.map(({ field }) => field)), [step.lines]);
  const unused = useMemo(
    () => firstRows(document.fields).filter(({ name }) => !used.has(name)),
    [document.fields, used],
  );
  const unfilled = useMemo(() => unfilledOf(entity, taken), [entity, taken]);
  const seen = useStepSample(step, sample);
  const { values } = seen;

  const editLine = (id: string, work: (line: Line) => Line): void => edit((held) => changeLine(held, id, work));
  const remove = (id: string): void => edit((held) => removeLine(held, id));
  const openLine = (id: string | undefined): void => {
    set('line', id);
    // Closed, the focus is on the line again.
    if (id === undefined && open !== undefined)
      requestAnimationFrame(() =>
        window.document.querySelector<HTMLElement>(`[data-line="${CSS.escape(open)}"] button`)?.focus(),
      );
  };
  const choose = useSteady((id: string) => {
    setAt(lines.findIndex((line) => line.id === id));
    openLine(open === id ? undefined : id);
  });
  const connect = useSteady((source: FormField, name: string): void => {
    const line = prepareLine(newId(), [source], fieldOf(entity, name)!, whereOf(document, schema));
    edit((held) => addLines(held, [line]));
  });
  const link = useSteady((from: NonNullable<Line['fromStep']>, name: string): void => {
    const line = { ...linkLine(newId(), fieldOf(entity, name)!, from.step), fromStep: from };
    edit((held) => addLines(held, [line]));
  });
  const always = useSteady((name: string): void => {
    const id = newId();
    edit((held) => addLines(held, [constantLine(id, name, held)]));
    setParams((held) => new URLSearchParams({ ...Object.fromEntries(held), show: 'all', line: id }), { replace: true });
  });
  const suggestRest = async (): Promise<void> => {
    const after = (await suggest.rest(document.plan.steps, step.id)).find(({ id }) => id === step.id);
    const known = new Set(step.lines.map(({ id }) => id));
    const more = (after?.lines ?? []).filter(({ id }) => !known.has(id));
    setSaid(
      more.length === 0
        ? 'Nothing more suggests itself.'
        : more.length === 1
          ? 'One line suggested.'
          : `${more.length} lines suggested.`,
    );
    edit((held) => addLines(held, more));
  };
  /** What is offered among the lines that are shown; what a visitor agrees to is accepted line by line, its wording read. */
  const offered = lines.filter((line) => line.origin === 'suggested' && wordingAgreedTo(line) === undefined);
  const acceptAll = (): void => edit((held) => acceptLines(held, new Set(offered.map(({ id }) => id))));
  const counts: Record<Shown, number> = {
    all: step.lines.length,
    look: step.lines.filter(({ id }) => byLine.has(id)).length,
    suggested: step.lines.filter(({ origin }) => origin === 'suggested').length,
    set: step.lines.filter(({ origin }) => origin === 'set').length,
    unused: unused.length,
  };
  const current = lines[Math.min(at, lines.length - 1)];
  useKeys({
    ...listKeys(lines.length, Math.min(at, Math.max(0, lines.length - 1)), setAt),
    Enter: () => current && openLine(open === current.id ? undefined : current.id),
    Escape: () => openLine(undefined),
    '[': () => setSample(Math.max(0, sample - 1)),
    ']': () => setSample(Math.min(samples.length - 1, sample + 1)),
    ...(mayEdit
      ? {
          a: () => current && editLine(current.id, (line) => line),
          x: () => current && remove(current.id),
          s: () => void suggestRest(),
          'ctrl+z': undo,
          'ctrl+y': redo,
        }
      : {}),
  });

  useActions(
    mayEdit
      ? [
          { name: 'Suggest the rest of the lines', hotkey: 'S', act: () => void suggestRest() },
          ...(offered.length > 0 ? [{ name: `Accept all ${offered.length} suggested lines`, act: acceptAll }] : []),
          { name: 'Undo', hotkey: 'Ctrl Z', act: undo },
          { name: 'Redo', hotkey: 'Ctrl Y', act: redo },
        ]
      : [],
  );

  // A check, or a link, leads to a line.
  useEffect(() => {
    const index = lines.findIndex(({ id }) => id === open);
    if (index >= 0) setAt(index);
    // Where it stands matters when it is opened, not when lines move.
  }, [open]);

  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const [dragged, setDragged] = useState<string>();
  const drop = ({ active, over }: DragEndEvent): void => {
    setDragged(undefined);
    const source = document.fields.find(({ name }) => name === active.data.current?.['source']);
    const to = over?.data.current as { field?: string; line?: string } | undefined;
    if (!source || !to) return;
    if (to.field !== undefined) connect(source, to.field);
    else if (to.line !== undefined) editLine(to.line, (line) => withSource(line, source.name));
  };
  const needed = mayCreate(step) ? entity.fields.filter(mustBeGiven) : [];
  const filled = needed.filter(({ name }) =>
    step.lines.some(({ field, origin }) => field === name && origin === 'set'),
  ).length;
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      onDragStart={({ active }) => setDragged(active.data.current?.['source'] as string)}
      onDragCancel={() => setDragged(undefined)}
      onDragEnd={drop}
    >
      <div className="flex items-center justify-between gap-4 border-b border-hair px-3 py-1.5">
        <LinesFilter shown={shown} counts={counts} choose={(next) => set('show', next === 'all' ? undefined : next)} />
        <p className="flex shrink-0 items-center gap-3 text-small text-soft" aria-live="polite">
          {said && <span>{said}</span>}
          {seen.rows !== undefined && (
            <span>
              {seen.rows === 0
                ? 'no row in this sample'
                : seen.rows === 1
                  ? 'its one row'
                  : `first of ${seen.rows} rows`}
            </span>
          )}
          {needed.length > 0 && (
            <span>
              {filled} of {needed.length} needed {needed.length === 1 ? 'field' : 'fields'} set
            </span>
          )}
          {mayEdit && offered.length > 0 && (
            <button
              type="button"
              className="font-semibold text-plum hover:underline"
              title="What a visitor agrees to is accepted line by line"
              onClick={acceptAll}
            >
              accept all {offered.length}
            </button>
          )}
          {mayEdit && (
            <button
              type="button"
              className="inline-flex items-center gap-1.5 font-semibold text-plum hover:underline"
              onClick={() => void suggestRest()}
            >
              <Key name="S" /> suggest the rest
            </button>
          )}
        </p>
      </div>
      {shown !== 'unused' && (
        <LinesTable
          lines={lines}
          current={current}
          open={open}
          none={step.lines.length === 0}
          head={<SampleSwitch sample={sample} of={samples.length} setSample={setSample} />}
          row={(line) => (
            <LineRow
              line={line}
              entity={entity}
              seen={seen}
              findings={byLine.get(line.id) ?? NO_FINDINGS}
              chosen={line === current}
              open={open === line.id}
              choose={choose}
            />
          )}
          editor={(line) => (
            <LineEditor
              line={line}
              entity={entity}
              schema={schema}
              step={step}
              seen={seen}
              findings={byLine.get(line.id) ?? NO_FINDINGS}
              taken={taken}
              edit={(work) => editLine(line.id, work)}
              remove={() => remove(line.id)}
              close={() => openLine(undefined)}
            />
          )}
        />
      )}
      {/* An open line takes the room; what is left to map is there again when it is closed. */}
      <div className="border-t border-hair px-4 py-2.5" hidden={open !== undefined && shown !== 'unused'}>
        <FieldsLeft
          unused={unused}
          unfilled={unfilled}
          entity={entity}
          taken={taken}
          values={values}
          mayEdit={mayEdit}
          whole={shown === 'unused'}
          step={step}
          connect={connect}
          link={link}
          always={always}
        />
      </div>
      {/* Over everything, since a list that scrolls would cut off what is dragged out of it; and only while something is
          dragged, since it would be drawn again with every line that comes into sight. */}
      {dragged !== undefined && (
        <DragOverlay dropAnimation={null}>
          <Incoming>{document.fields.find(({ name }) => name === dragged)?.label ?? dragged}</Incoming>
        </DragOverlay>
      )}
    </DndContext>
  );
}

function SampleSwitch({ sample, of, setSample }: { sample: number; of: number; setSample: (at: number) => void }) {
  if (of === 0) return <>No samples</>;
  return (
    <span className="inline-flex flex-wrap items-center gap-x-1.5">
      <span className="whitespace-nowrap">
        Sample {sample + 1} of {of}
      </span>
      <button
        type="button"
        aria-label="Previous sample"
        disabled={sample === 0}
        className="px-1 font-bold text-plum disabled:text-soft"
        onClick={() => setSample(sample - 1)}
      >
        ‹
      </button>
      <button
        type="button"
        aria-label="Next sample"
        disabled={sample >= of - 1}
        className="px-1 font-bold text-plum disabled:text-soft"
        onClick={() => setSample(sample + 1)}
      >
        ›
      </button>
    </span>
  );
}
