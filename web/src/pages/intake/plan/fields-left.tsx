import { useDraggable, useDroppable } from '@dnd-kit/core';
import type { FormField } from '@zusammen/core/forms';
import type { Line } from '@zusammen/core/mapping';
import type { IntakeDocument } from '@zusammen/core/intake';
import { firstRows, mayCreate, usesOf, type Step } from '@zusammen/core/plans';
import { isWritable, mustBeGiven, type Entity, type Field, type Schema, type Values } from '@zusammen/core/schema';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Fragment, memo, useMemo, useRef, type ReactNode } from 'react';
import { Incoming, Outgoing } from '../../../parts/chip.tsx';
import { Combobox } from '../../../parts/combobox.tsx';
import { cx } from '../../../parts/cx.ts';
import { Editable } from '../../../parts/editable.tsx';
import { ValueText } from '../../../parts/values.tsx';
import { useDraft } from '../draft.tsx';
import { earlierItems, earlierOf } from './earlier.ts';
import { targetItems } from './target-items.ts';

interface Props {
  unused: readonly FormField[];
  unfilled: readonly Field[];
  entity: Entity;
  taken: ReadonlySet<string>;
  values: Values | undefined;
  mayEdit: boolean;
  /** Shows all that is left instead of a few of it. */
  whole: boolean;
  step: Step;
  connect: (source: FormField, field: string) => void;
  /** Puts the record of an earlier step, or one of its values, into a field. */
  link: (from: NonNullable<Line['fromStep']>, field: string) => void;
  always: (field: string) => void;
}

const FEW = 12;

/** What of the form isn't used, and what of the record nothing fills: picked, or dragged onto one another. */
export const FieldsLeft = memo(function FieldsLeft({
  unused,
  unfilled,
  entity,
  taken,
  values,
  mayEdit,
  whole,
  step,
  connect,
  link,
  always,
}: Props) {
  const { document, schemas } = useDraft();
  // A field may fill several records: what another line uses is offered too, after what nothing uses.
  const goesTo = useMemo(() => usedFor(document, schemas), [document, schemas]);
  const offered = useMemo(
    () => [...unused, ...firstRows(document.fields).filter((field) => !unused.includes(field))],
    [unused, document.fields],
  );
  return (
    <div className={cx('grid gap-x-6 gap-y-2', whole ? 'grid-cols-2 items-start' : 'grid-cols-1')}>
      <Left name="Not used here" of={unused} whole={whole}>
        {(source) => (
          <span className={cx(whole && 'grid grid-cols-[220px_minmax(0,1fr)] items-center gap-3')}>
            <Dragged name={source.name} disabled={!mayEdit}>
              <Editable
                bare
                label={`Use ${source.label}`}
                wide
                disabled={!mayEdit}
                shown={<Incoming>{source.label}</Incoming>}
              >
                {(close) => (
                  <Combobox
                    placeholder={`Where does ${source.label} go?`}
                    items={targetItems(entity, taken)}
                    choose={(name) => {
                      connect(source, name);
                      close();
                    }}
                  />
                )}
              </Editable>
            </Dragged>
            {whole && (
              <span className="min-w-0 truncate">
                <ValueText value={values?.[source.name] ?? null} />
              </span>
            )}
          </span>
        )}
      </Left>
      <Left name="Nothing fills" of={unfilled} whole={whole}>
        {(field) => (
          <Target field={field.name}>
            <Editable
              bare
              wide
              disabled={!mayEdit}
              label={`Fill ${field.label}`}
              shown={
                <Outgoing muted>
                  {field.label}
                  {mayCreate(step) && mustBeGiven(field) && <span className="font-bold"> needed</span>}
                </Outgoing>
              }
            >
              {(close) => (
                <Combobox
                  placeholder={`What fills ${field.label}?`}
                  items={[
                    ...(field.type === 'reference' ? earlierItems(step, field, document.plan.steps, schemas) : []),
                    ...offered.map(({ name, label, type }) => ({
                      value: `form ${name}`,
                      label,
                      words: `${label} ${name}`,
                      note: goesTo.get(name) ?? type,
                      group: goesTo.has(name) ? 'Used already' : 'A field of the form',
                    })),
                    ...(field.type === 'reference' ? [] : earlierItems(step, field, document.plan.steps, schemas)),
                    {
                      value: 'always',
                      label: 'always the same, or computed',
                      words: 'always same constant computed',
                      group: 'Or',
                    },
                  ]}
                  choose={(chosen) => {
                    const source = offered.find(({ name }) => chosen === `form ${name}`);
                    const earlier = earlierOf(chosen);
                    if (source) connect(source, field.name);
                    else if (earlier) link(earlier, field.name);
                    else always(field.name);
                    close();
                  }}
                />
              )}
            </Editable>
          </Target>
        )}
      </Left>
    </div>
  );
});

/** Where each field of the form goes already, in words. */
function usedFor(document: IntakeDocument, schemas: ReadonlyMap<string, Schema>): Map<string, string> {
  const goesTo = new Map<string, string>();
  for (const { reads, system, entity, field, how } of usesOf(document)) {
    const about = schemas.get(system)?.entities.find(({ name }) => name === entity);
    const label = about?.fields.find(({ name }) => name === field)?.label ?? field;
    if (how === 'written')
      for (const name of reads) if (!goesTo.has(name)) goesTo.set(name, `${about?.label ?? entity}: ${label}`);
  }
  return goesTo;
}

/** What is left on one side: the first few in a row, or all of it in a list that draws what is in sight. */
function Left<T extends { name: string }>({
  name,
  of,
  whole,
  children,
}: {
  name: string;
  of: readonly T[];
  whole: boolean;
  children: (each: T) => ReactNode;
}) {
  const shown = of.slice(0, FEW);
  return (
    <div className={cx('min-w-0', whole ? 'space-y-1.5' : 'flex flex-wrap items-center gap-1.5')}>
      <span className={cx('shrink-0 text-small text-soft', whole ? 'block font-semibold' : 'mr-1 w-[92px]')}>
        {name}
        {whole && of.length > 0 && <span className="font-normal tabular-nums"> {of.length}</span>}
      </span>
      {of.length === 0 && <span className="text-small text-soft">nothing</span>}
      {whole && of.length > DRAWN_WHOLE ? (
        <InSight name={name} of={of}>
          {children}
        </InSight>
      ) : whole ? (
        <ul aria-label={name} className="space-y-1.5">
          {of.map((each) => (
            <li key={each.name}>{children(each)}</li>
          ))}
        </ul>
      ) : (
        <>
          {shown.map((each) => (
            <Fragment key={each.name}>{children(each)}</Fragment>
          ))}
          {of.length > shown.length && (
            <span className="text-small text-soft">and {of.length - shown.length} more</span>
          )}
        </>
      )}
    </div>
  );
}

/** Up to so many are drawn whole. */
const DRAWN_WHOLE = 60;
const ROW = 31;

/** A record may have hundreds of fields: only those in sight are drawn. */
function InSight<T extends { name: string }>({
  name,
  of,
  children,
}: {
  name: string;
  of: readonly T[];
  children: (each: T) => ReactNode;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: of.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    getItemKey: (index) => of[index]!.name,
    overscan: 6,
  });
  return (
    <div ref={scroller} tabIndex={0} aria-label={name} role="list" className="max-h-[calc(100vh-400px)] overflow-auto">
      <div className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map(({ index, key, start }) => (
          <div
            key={key}
            role="listitem"
            aria-setsize={of.length}
            aria-posinset={index + 1}
            data-index={index}
            ref={rows.measureElement}
            className="absolute inset-x-0 top-0 pb-1.5"
            style={{ transform: `translateY(${start}px)` }}
          >
            {children(of[index]!)}
          </div>
        ))}
      </div>
    </div>
  );
}

/** A form's field that can be dragged; keys and clicks go to what is inside. What follows the pointer is drawn by the page. */
function Dragged({ name, disabled, children }: { name: string; disabled: boolean; children: ReactNode }) {
  const { setNodeRef, listeners, isDragging } = useDraggable({
    id: `field ${name}`,
    data: { source: name },
    disabled,
  });
  return (
    <span
      ref={setNodeRef}
      onPointerDown={listeners?.['onPointerDown'] as ((event: React.PointerEvent) => void) | undefined}
      className={cx('inline-block max-w-full touch-none', isDragging && 'opacity-50')}
    >
      {children}
    </span>
  );
}

function Target({ field, children }: { field: string; children: ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id: `target ${field}`, data: { field } });
  return (
    <span
      ref={setNodeRef}
      className={cx('inline-block max-w-full rounded-[4px]', isOver && 'outline-2 outline-offset-2 outline-moss')}
    >
      {children}
    </span>
  );
}

/** The record's fields that no line fills, those needed first. */
export function unfilledOf(entity: Entity, taken: ReadonlySet<string>): Field[] {
  return entity.fields
    .filter((field) => isWritable(field) && !taken.has(field.name))
    .sort((a, b) => Number(mustBeGiven(b)) - Number(mustBeGiven(a)));
}
