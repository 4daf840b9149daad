import {
  fieldAt,
  freshLine,
  optionsBetween,
  wayBetween,
  type Around,
  type PairLine,
  type Place,
  type Sides,
} from '@zusammen/core/pairing';
import { readExpression } from '@zusammen/core/expressions';
import { useState } from 'react';
import { Button } from '../../parts/button.tsx';
import { ExpressionBox } from '../../parts/expression-box.tsx';
import { PathPicker } from './path-picker.tsx';

/** Chooses where a value is found: a field, one that a relation leads to, or one that is worked out. */
export function PlacePicker({
  placeholder,
  around,
  taken,
  worksOut = true,
  choose,
}: {
  placeholder: string;
  around: Around;
  /** Paths that can't be chosen. */
  taken: ReadonlySet<string>;
  /** A value may be worked out: nothing can be worked out from what is worked out. */
  worksOut?: boolean;
  choose: (place: Place) => void;
}) {
  const [compute, setCompute] = useState<string>();
  const fields = around.entity.fields.filter(({ rights }) => rights !== 'none');
  if (compute !== undefined)
    return (
      <div className="space-y-2 p-2">
        <ExpressionBox
          label={`Worked out from ${around.entity.label} (CEL)`}
          value={compute}
          fields={fields}
          root="record"
          change={setCompute}
        />
        <span className="flex gap-2">
          <Button
            look="strong"
            disabled={!readExpression(compute, fields).ok}
            onClick={() => choose({ path: [], compute })}
          >
            Take it
          </Button>
          <Button onClick={() => setCompute(undefined)}>Back to the fields</Button>
        </span>
      </div>
    );
  return (
    <>
      <PathPicker
        placeholder={placeholder}
        around={around}
        fits={(_, path) => !taken.has(path.join('.'))}
        choose={(path) => choose({ path })}
      />
      {worksOut && (
        <button
          type="button"
          className="mx-2 mb-2 min-h-6 text-small text-plum hover:underline"
          onClick={() => setCompute('')}
        >
          work it out from the record …
        </button>
      )}
    </>
  );
}

/** A line between two places, in the way that values can travel, with options paired that mean the same. */
export function lineBetween(id: string, left: Place, right: Place, around: Sides<Around>): PairLine {
  const isRead = ({ path, compute }: Place): boolean => compute !== undefined || path.length > 1;
  const mine = fieldAt(left, around.left);
  const other = fieldAt(right, around.right);
  const way = isRead(left)
    ? 'to right'
    : isRead(right)
      ? 'to left'
      : ((mine && other && wayBetween(mine, other)) ?? 'to right');
  const options = mine && other ? optionsBetween(mine, other) : [];
  return { ...freshLine(id, [], []), left, right, way, ...(options.length > 0 ? { options } : {}) };
}
