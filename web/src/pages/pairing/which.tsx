import type { PairingLook } from '@zusammen/core/api';
import { describeCondition, expressionOf, type Condition } from '@zusammen/core/expressions';
import { matchInWords, type Match, type Side } from '@zusammen/core/pairing';
import { useState } from 'react';
import { Button } from '../../parts/button.tsx';
import { ConditionEditor } from '../../parts/condition-editor.tsx';
import { Incoming, Outgoing } from '../../parts/chip.tsx';
import { Choices, Editable } from '../../parts/editable.tsx';
import { count } from '../../parts/time.tsx';
import { PathPicker } from './path-picker.tsx';
import type { Editing } from './pairing.tsx';

const ALONE = [
  { value: 'leave', label: 'is left alone' },
  { value: 'make', label: 'gets one made there' },
] as const;
const GONE = [
  { value: 'undo', label: 'stays, and goes with nothing', help: 'It isn’t made anew on the other side.' },
  { value: 'delete', label: 'is deleted as well' },
  { value: 'ask', label: 'waits in Review', help: 'Somebody says whether it is deleted.' },
] as const;

/** "Co-op Letters: Subscriber goes with Co-op CRM: Person when CRM id is Id": read as a sentence, edited where it stands. */
export function WhichWithWhich({ editing, look }: { editing: Editing; look: PairingLook | undefined }) {
  const { document, pairing, around, change, mayEdit } = editing;
  const [more, setMore] = useState(false);
  const { left, right } = around;
  const setMatches = (matches: Match[]): void => change((before) => ({ ...before, matches }));
  return (
    <div className="border-b border-hair px-4 py-3 text-[15px] leading-8">
      <Incoming>
        {pairing.left.systemName}: {pairing.left.entityLabel}
      </Incoming>{' '}
      <span className="text-small text-soft">goes with</span>{' '}
      <Outgoing>
        {pairing.right.systemName}: {pairing.right.entityLabel}
      </Outgoing>{' '}
      {document.matches.map((match, at) => (
        <span key={JSON.stringify(match)}>
          <span className="text-small text-soft">{at === 0 ? 'when' : 'else when'}</span>{' '}
          <strong className="font-semibold">
            {left && right ? matchInWords(match, { left, right }) : JSON.stringify(match)}
          </strong>
          {mayEdit && (
            <button
              type="button"
              className="ml-1 min-h-6 px-1 text-soft hover:text-brick"
              aria-label={`No longer by ${left && right ? matchInWords(match, { left, right }) : 'this'}`}
              onClick={() => setMatches(document.matches.filter((each) => each !== match))}
            >
              ×
            </button>
          )}{' '}
        </span>
      ))}
      {document.matches.length === 0 && document.weighed === undefined && (
        <span className="text-brick">nothing says when </span>
      )}
      {mayEdit && left && right && document.matches.length < 5 && (
        <Editable
          label="Another way to see it"
          wide
          shown={<span className="text-small text-plum">+ another way</span>}
          bare
        >
          {(close) => (
            <NewMatch
              editing={editing}
              done={(match) => {
                setMatches([...document.matches, match]);
                close();
              }}
            />
          )}
        </Editable>
      )}
      <Weighed editing={editing} />
      <button
        type="button"
        aria-expanded={more}
        className="ml-3 min-h-6 text-small text-plum hover:underline"
        onClick={() => setMore(!more)}
      >
        {more ? 'less' : 'records without a counterpart …'}
      </button>
      {look?.measured && (
        <span className="ml-3 text-small text-soft">
          <span className="font-mono text-ink">{count(look.measured.pairs)}</span> pairs,{' '}
          <span className="font-mono">{count(look.measured.alone.left)}</span> and{' '}
          <span className="font-mono">{count(look.measured.alone.right)}</span> without one
          {look.measured.unsure > 0 && `, ${count(look.measured.unsure)} with several`}
        </span>
      )}
      {more && (
        <div className="mt-1 text-body leading-8">
          {(['left', 'right'] as const).map((side) => (
            <p key={side}>
              {editing.pairing[side].entityLabel} without a counterpart{' '}
              <Editable
                label={`${editing.pairing[side].entityLabel} without a counterpart`}
                disabled={!mayEdit}
                shown={ALONE.find(({ value }) => value === document.alone[side].what)!.label}
              >
                {(close) => (
                  <Choices
                    options={ALONE}
                    chosen={document.alone[side].what}
                    choose={(what) => {
                      change((before) => ({
                        ...before,
                        alone: { ...before.alone, [side]: { ...before.alone[side], what } },
                      }));
                      close();
                    }}
                  />
                )}
              </Editable>
              {document.alone[side].what === 'make' && <OnlyWhere editing={editing} side={side} />}; when the other
              record is deleted, it{' '}
              <Editable
                label={`When the counterpart of ${editing.pairing[side].entityLabel} is deleted`}
                disabled={!mayEdit}
                shown={GONE.find(({ value }) => value === document.gone[side])!.label}
              >
                {(close) => (
                  <Choices
                    options={GONE}
                    chosen={document.gone[side]}
                    choose={(then) => {
                      change((before) => ({ ...before, gone: { ...before.gone, [side]: then } }));
                      close();
                    }}
                  />
                )}
              </Editable>
              .
            </p>
          ))}
          <p>
            Changes are looked for every{' '}
            <Editable
              label="How often changes are looked for"
              disabled={!mayEdit}
              shown={document.lookEvery === 1 ? 'second' : `${document.lookEvery} seconds`}
            >
              {(close) => (
                <Choices
                  options={[1, 5, 30, 300, 3_600].map((each) => ({
                    value: String(each),
                    label:
                      each === 1
                        ? 'second'
                        : each < 60
                          ? `${each} seconds`
                          : each < 3_600
                            ? `${each / 60} minutes`
                            : 'hour',
                  }))}
                  chosen={String(document.lookEvery)}
                  choose={(every) => {
                    change((before) => ({ ...before, lookEvery: Number(every) }));
                    close();
                  }}
                />
              )}
            </Editable>
            , as far as the systems tell them.
          </p>
        </div>
      )}
    </div>
  );
}

/** What no way finds one for can be weighed against the known records of a side that is recognised. */
function Weighed({ editing }: { editing: Editing }) {
  const { document, pairing, change, mayEdit } = editing;
  const { weighed } = document;
  if (weighed !== undefined)
    return (
      <span>
        {' '}
        <span className="text-small text-soft">
          {document.matches.length === 0 ? 'when weighed' : 'else when weighed'}
        </span>{' '}
        <strong className="font-semibold">as {pairing[weighed].entityLabel} is recognised</strong>
        {mayEdit && (
          <button
            type="button"
            className="ml-1 min-h-6 px-1 text-soft hover:text-brick"
            aria-label="No longer weighed"
            onClick={() => change(({ weighed: _, ...before }) => before)}
          >
            ×
          </button>
        )}
      </span>
    );
  if (!mayEdit) return null;
  return (['left', 'right'] as const)
    .filter((side) => pairing.recognises[side])
    .map((side) => (
      <button
        key={side}
        type="button"
        className="ml-3 min-h-6 text-small text-plum hover:underline"
        onClick={() => change((before) => ({ ...before, weighed: side }))}
      >
        + else weigh against known {pairing[side].entityLabel}
      </button>
    ));
}

/** For which records one is made on the other side. */
function OnlyWhere({ editing, side }: { editing: Editing; side: Side }) {
  const { document, around, change, mayEdit } = editing;
  const entity = around[side]?.entity;
  const fields = (entity?.fields ?? []).filter(({ name, rights }) => rights !== 'none' && name !== entity?.key);
  const { condition } = document.alone[side];
  const labelOf = (name: string): string => fields.find((field) => field.name === name)?.label ?? name;
  const optionOf = (name: string, value: string): string =>
    fields.find((field) => field.name === name)?.options?.find((option) => option.value === value)?.label ?? value;
  const set = (next: Condition | undefined): void =>
    change((before) => {
      const { condition: _, ...rest } = before.alone[side];
      return { ...before, alone: { ...before.alone, [side]: next ? { ...rest, condition: next } : rest } };
    });
  const always = expressionOf(condition, fields) === undefined;
  return (
    <>
      {always ? ', ' : ', only if '}
      <Editable
        label={`For which ${editing.pairing[side].entityLabel} one is made`}
        wide
        disabled={!mayEdit}
        shown={always ? 'whatever it holds' : describeCondition(condition, labelOf, optionOf)}
      >
        {() => <ConditionEditor condition={condition} fields={fields} root="record" change={set} />}
      </Editable>
    </>
  );
}

/** A way of seeing which goes with which: a value of one side that is one of the other. */
function NewMatch({ editing, done }: { editing: Editing; done: (match: Match) => void }) {
  const { around } = editing;
  const [left, setLeft] = useState<string[]>();
  const [right, setRight] = useState<string[]>();
  if (!around.left || !around.right) return null;
  if (!left)
    return (
      <PathPicker
        placeholder={`A field of ${around.left.entity.label}`}
        around={around.left}
        withKey
        choose={setLeft}
      />
    );
  if (!right)
    return (
      <PathPicker
        placeholder={`that is this of ${around.right.entity.label}`}
        around={around.right}
        withKey
        choose={setRight}
      />
    );
  return (
    <div className="p-2">
      <p className="mb-2">{matchInWords({ parts: [{ left, right }] }, { left: around.left, right: around.right })}</p>
      <Button look="strong" autoFocus onClick={() => done({ parts: [{ left, right }] })}>
        Take it
      </Button>
    </div>
  );
}
