import { useSortable } from '@dnd-kit/sortable';
import { say, type Standing } from '@zusammen/core/forms/hosted';
import { memo, useEffect, useRef } from 'react';
import { cx } from '../../../parts/cx.ts';
import type { Editing } from './editing.tsx';
import { Sentence } from './sentence.tsx';
import { VisitorItem } from './visitor-item.tsx';
import { Wording } from './wording.tsx';

/** A question as a visitor sees it, and beside it, at its height, what it does. */
export const QuestionRow = memo(function QuestionRow({
  standing,
  editing,
  isChosen,
  isWorded,
}: {
  standing: Standing;
  editing: Editing;
  isChosen: boolean;
  isWorded: boolean;
}) {
  const { item, groups } = standing;
  const { form, language, mayEdit } = editing;
  const { setNodeRef, listeners, isDragging, isOver, activeIndex, index } = useSortable({
    id: item.id,
    disabled: !mayEdit || isWorded,
  });
  const own = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (isChosen) own.current?.scrollIntoView({ block: 'nearest' });
  }, [isChosen]);
  const label = say(item.label, language, form.languages) || item.name || item.kind;
  return (
    <li
      ref={(element) => {
        setNodeRef(element);
        own.current = element;
      }}
      data-question={item.name ?? item.id}
      aria-current={isChosen}
      onClick={() => !isChosen && editing.choose(item.id)}
      className={cx(
        'grid grid-cols-[var(--paper)_minmax(0,1fr)] border-l-[3px] max-[1100px]:grid-cols-1',
        isChosen ? 'border-plum bg-plum-wash' : 'border-transparent hover:bg-wash',
        isDragging && 'opacity-40',
        isOver && (activeIndex > index ? 'border-t-2 border-t-plum' : 'border-b-2 border-b-plum'),
      )}
    >
      <div className="px-6 py-2.5">
        <div
          className={cx(groups.length > 0 && 'border-l border-dashed border-line pl-4', groups.length > 1 && 'ml-5')}
        >
          {isWorded ? (
            <Wording id={item.id} editing={editing} />
          ) : (
            <button
              type="button"
              aria-label={`${label}, the question`}
              className="block w-full text-left"
              onClick={() => editing.choose(item.id)}
              onDoubleClick={() => mayEdit && editing.word(item.id)}
              onPointerDown={listeners?.['onPointerDown'] as ((event: React.PointerEvent) => void) | undefined}
            >
              {item.kind === 'group' || item.kind === 'hidden' ? (
                <span className="block text-[15px] font-semibold">
                  {label}
                  <span className="ml-2 text-small font-normal text-soft">
                    {item.kind === 'group' ? `${item.leastRows ?? 0} to ${item.mostRows ?? 10} rows` : 'hidden'}
                  </span>
                </span>
              ) : (
                <VisitorItem item={item} form={form} language={language} />
              )}
            </button>
          )}
        </div>
      </div>
      <div className="min-w-0 border-l border-hair py-2.5 pr-4 pl-3 max-[1100px]:border-l-0 max-[1100px]:pl-6">
        <Sentence standing={standing} edited={isChosen && mayEdit} editing={editing} />
      </div>
    </li>
  );
});
