import { pointerWithin, DndContext, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { troublesOf } from '@zusammen/core/forms/hosted';
import { Fragment, useState, type CSSProperties } from 'react';
import { useActions } from '../../../parts/actions.ts';
import { Key } from '../../../parts/key.tsx';
import { listKeys, useKeys } from '../../../parts/keys.ts';
import { Radios } from '../../../parts/radios.tsx';
import { Empty } from '../../../parts/states.tsx';
import { useDraft } from '../draft.tsx';
import { AskFor } from './ask-for.tsx';
import { useEditing, type Editing } from './editing.tsx';
import { QuestionRow } from './question-row.tsx';
import { WholeForm } from './whole-form.tsx';
import { nameOf } from './wording.tsx';

const WIDTHS = ['480', '360'] as const;
/** What stands around the visitor's page, in pixels. */
const AROUND = 48;

/** The Arrive station of a form of ours: what is asked for, the form as a visitor sees it, and what each question does. */
export function FormStation() {
  const editing = useEditing();
  return editing && <Station editing={editing} />;
}

function Station({ editing }: { editing: Editing }) {
  const { form, standings, chosen, choose, mayEdit } = editing;
  const { undo, redo } = useDraft();
  const [width, setWidth] = useState<(typeof WIDTHS)[number]>('480');
  const [said, setSaid] = useState('');
  const at = standings.findIndex(({ item }) => item.id === chosen?.item.id);
  const move = (by: 1 | -1): void => {
    if (!chosen) return;
    editing.move(chosen.item.id, by);
    setSaid(by > 0 ? 'Moved down.' : 'Moved up.');
  };
  const askMore = (): void => window.document.getElementById('ask-more')?.closest('button')?.click();
  useKeys({
    ...listKeys(standings.length, at, (to) => choose(standings[to]?.item.id)),
    ...(mayEdit
      ? {
          '/': askMore,
          'alt+ArrowUp': () => move(-1),
          'alt+ArrowDown': () => move(1),
          Enter: () => chosen && editing.word(chosen.item.id),
          Delete: () => chosen && editing.remove(chosen.item.id),
          'ctrl+z': undo,
          'ctrl+y': redo,
        }
      : {}),
  });
  useActions(
    mayEdit
      ? [
          { name: 'Ask for more in this form', hotkey: '/', act: askMore },
          { name: 'Undo', hotkey: 'Ctrl Z', act: undo },
          { name: 'Redo', hotkey: 'Ctrl Y', act: redo },
        ]
      : [],
  );
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 8 } }));
  const drop = ({ active, over }: DragEndEvent): void => {
    if (!over || active.id === over.id) return;
    const [from, to] = [active.id, over.id].map((id) => standings.findIndex(({ item }) => item.id === id));
    editing.drop(String(active.id), from! < to! ? { after: String(over.id) } : { before: String(over.id) });
    choose(String(active.id));
  };
  const [trouble] = troublesOf(form);
  const troubled = trouble && standings.find(({ item }) => item.id === trouble.at);
  return (
    <div className="grid grid-cols-[270px_minmax(0,1fr)] items-start gap-3.5 max-[900px]:grid-cols-1">
      <AskFor editing={editing} />
      <section
        aria-label="The form"
        className="sheet min-w-0 overflow-hidden pb-4"
        style={{ '--paper': `${Number(width) + AROUND}px` } as CSSProperties}
      >
        <header className="grid min-h-[42px] grid-cols-[var(--paper)_minmax(0,1fr)] items-center text-small text-soft max-[1100px]:grid-cols-1">
          <div className="flex flex-wrap items-center gap-x-3 px-6 py-1.5">
            <span>As a visitor sees it</span>
            <Radios
              label="How wide"
              chosen={width}
              choose={setWidth}
              options={WIDTHS.map((value) => ({ value, label: `${value} px` }))}
            />
            {form.languages.length > 1 && (
              <Radios
                label="In which language"
                chosen={editing.language}
                choose={editing.speak}
                options={form.languages.map((value) => ({ value, label: nameOf(value) }))}
              />
            )}
          </div>
          <div className="flex flex-wrap items-center justify-between gap-x-3 py-1.5 pr-4 pl-3">
            <span className="font-semibold">What each question does</span>
            {mayEdit && (
              <span className="inline-flex flex-wrap items-center gap-1">
                <Key name="J" /> <Key name="K" /> move <Key name="Alt ↑" /> <Key name="Alt ↓" /> reorder{' '}
                <Key name="/" /> ask more
              </span>
            )}
          </div>
        </header>
        {trouble && (
          <p role="alert" className="mx-6 mb-2 rounded-[8px] bg-brick-wash px-4 py-2 text-brick">
            It can’t be shown like this, and isn’t saved:{' '}
            {troubled && `“${troubled.item.label[editing.language] ?? ''}”: `}
            {trouble.reason}.
          </p>
        )}
        <WholeForm editing={editing} />
        {standings.length === 0 && (
          <Empty title="Nothing is asked yet">
            Tick a field at the left: the question and the line that fills it are made together.
          </Empty>
        )}
        <DndContext sensors={sensors} collisionDetection={pointerWithin} onDragEnd={drop}>
          <SortableContext items={standings.map(({ item }) => item.id)} strategy={verticalListSortingStrategy}>
            <ol aria-label="Questions">
              {standings.map((standing, index) => {
                const { item, page, groups } = standing;
                const isNewPage = groups.length === 0 && page > 0 && standings[index - 1]?.page !== page;
                return (
                  <Fragment key={item.id}>
                    {isNewPage && (
                      <li className="my-1 flex items-center gap-3 px-6 text-small text-soft">
                        <span aria-hidden="true" className="h-px flex-1 bg-hair" />
                        page {page + 1}
                        <span aria-hidden="true" className="h-px flex-1 bg-hair" />
                      </li>
                    )}
                    <QuestionRow
                      standing={standing}
                      editing={editing}
                      isChosen={item.id === chosen?.item.id}
                      isWorded={editing.wording === item.id}
                    />
                  </Fragment>
                );
              })}
            </ol>
          </SortableContext>
        </DndContext>
        <p aria-live="polite" className="sr-only">
          {said}
        </p>
      </section>
    </div>
  );
}
