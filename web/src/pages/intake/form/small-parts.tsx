import type { Item } from '@zusammen/core/forms/hosted';
import { renameQuestion } from '@zusammen/core/asking';
import { useState } from 'react';
import { useDraft } from '../draft.tsx';
import type { Editing } from './editing.tsx';
import { BOX, NumberBox, Part } from './part.tsx';

interface Props {
  item: Item;
  edited: boolean;
  editing: Editing;
}

/** Under which name the answer is sent. */
export function NamePart({ item, edited, editing }: Props) {
  const { change } = useDraft();
  const [typed, setTyped] = useState(item.name ?? '');
  if (!edited || item.name === undefined) return null;
  const isWrong = !/^[A-Za-z][A-Za-z0-9_]{0,59}$/.test(typed);
  const isTaken = editing.standings.some(({ item: other }) => other.id !== item.id && other.name === typed);
  return (
    <>
      {' '}
      Sent as{' '}
      <Part label="Sent as" shown={<span className="font-mono text-[13px]">{item.name}</span>} edited={edited}>
        {(close) => (
          <form
            className="w-[250px] space-y-1 p-2"
            onSubmit={(event) => {
              event.preventDefault();
              if (isWrong || isTaken) return;
              change((held) => renameQuestion(held, item.id, typed));
              close();
            }}
          >
            <input
              autoFocus
              aria-label="The name it is sent as"
              className={`${BOX} w-full font-mono`}
              maxLength={60}
              value={typed}
              onChange={({ target }) => setTyped(target.value)}
            />
            <p className={isWrong || isTaken ? 'text-small text-brick' : 'text-small text-soft'}>
              {isWrong
                ? 'A letter, then letters, digits or _.'
                : isTaken
                  ? 'Another question has this name.'
                  : 'Enter takes it; lines and conditions follow.'}
            </p>
          </form>
        )}
      </Part>
      .
    </>
  );
}

/** How many rows a group has. */
export function RowsPart({ item, edited, editing }: Props) {
  const { leastRows = 0, mostRows = 10 } = item;
  return (
    <Part label="Rows" shown={`${leastRows} to ${mostRows} rows`} edited={edited}>
      {() => (
        <div className="w-[220px] space-y-2 p-2">
          <NumberBox
            label="At least"
            value={leastRows}
            least={0}
            most={mostRows}
            change={(least = 0) => editing.change(item.id, (held) => ({ ...held, leastRows: least }))}
          />
          <NumberBox
            label="At most"
            value={mostRows}
            least={Math.max(1, leastRows)}
            most={50}
            change={(most = 10) => editing.change(item.id, (held) => ({ ...held, mostRows: most }))}
          />
        </div>
      )}
    </Part>
  );
}
