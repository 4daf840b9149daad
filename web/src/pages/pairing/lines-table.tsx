import type { PairingLook } from '@zusammen/core/api';
import {
  placeName,
  readiedLine,
  takesValues,
  fieldAt,
  type Decider,
  type PairLine,
  type Place,
  type Side,
  type Way,
} from '@zusammen/core/pairing';
import { useState } from 'react';
import { Incoming, Outgoing, Tag } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { Editable } from '../../parts/editable.tsx';
import { listKeys, useKeys } from '../../parts/keys.ts';
import { TD, TH } from '../../parts/sheet.tsx';
import { count } from '../../parts/time.tsx';
import { LineSettings } from './line-settings.tsx';
import { lineBetween, PlacePicker } from './place-picker.tsx';
import { Segments } from './segments.tsx';
import type { Editing } from './pairing.tsx';

/** Field by field: how it travels, who decides, what is lost on the way, and how many pairs differ now. */
export function LinesTable({
  editing,
  look,
  chosen,
  choose,
}: {
  editing: Editing;
  look: PairingLook | undefined;
  chosen: string | undefined;
  choose: (line: string) => void;
}) {
  const { document, pairing, mayEdit, change, changeLine } = editing;
  const { lines } = document;
  const at = Math.max(
    0,
    lines.findIndex(({ id }) => id === chosen),
  );
  const line = lines[at];
  useKeys({
    ...listKeys(lines.length, at, (to) => lines[to] && choose(lines[to].id)),
    ...(mayEdit && line
      ? {
          y: () => line.suggested && accept(editing, line),
          x: () => change((before) => ({ ...before, lines: before.lines.filter(({ id }) => id !== line.id) })),
          w: () => changeLine(line.id, { way: nextWay(editing, line) }),
        }
      : {}),
  });
  return (
    <table className="w-full">
      <thead>
        <tr>
          <th className={cx(TH, 'pl-4')}>{pairing.left.entityLabel}</th>
          <th className={TH}>Travels</th>
          <th className={TH}>{pairing.right.entityLabel}</th>
          <th className={TH}>Who decides when both changed</th>
          <th className={TH}>On the way</th>
          <th className={cx(TH, 'pr-4 text-right')}>Differ now</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((each) => (
          <Row
            key={each.id}
            editing={editing}
            line={each}
            look={look}
            chosen={each.id === line?.id}
            choose={() => choose(each.id)}
          />
        ))}
        {lines.length === 0 && (
          <tr>
            <td colSpan={6} className={cx(TD, 'px-4 py-4 text-soft')}>
              No field is linked yet.
            </td>
          </tr>
        )}
        {mayEdit && (
          <tr>
            <td colSpan={6} className={cx(TD, 'px-4 py-2')}>
              <NewLine editing={editing} made={choose} />
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

const WAYS: { value: Way; label: string; name: string }[] = [
  { value: 'to right', label: '→', name: 'To the right only' },
  { value: 'both', label: '⇄', name: 'Both ways' },
  { value: 'to left', label: '←', name: 'To the left only' },
];
const DECIDERS: { value: Decider; label: string; name: string; tone: string }[] = [
  { value: 'left', label: '→', name: 'The left side', tone: 'bg-plum text-on-strong' },
  { value: 'newest', label: 'newest', name: 'The newest change', tone: 'bg-ink text-sheet' },
  { value: 'right', label: '←', name: 'The right side', tone: 'bg-moss text-on-strong' },
  { value: 'ask', label: 'ask', name: 'Somebody is asked', tone: 'bg-saffron text-on-strong' },
];

/** The ways that a line may go: only to where values can be written. */
function waysOf({ around }: Editing, line: PairLine): Way[] {
  const takes = (side: Side): boolean => {
    const field = around[side] && fieldAt(line[side], around[side]);
    return field !== undefined && takesValues(line[side], field);
  };
  const [left, right] = [takes('left'), takes('right')];
  return WAYS.map(({ value }) => value).filter((way) =>
    way === 'both' ? left && right : way === 'to right' ? right : left,
  );
}

function nextWay(editing: Editing, line: PairLine): Way {
  const ways = waysOf(editing, line);
  return ways[(ways.indexOf(line.way) + 1) % ways.length] ?? line.way;
}

function accept({ change }: Editing, line: PairLine): void {
  change((before) => ({
    ...before,
    lines: before.lines.map((each) => {
      if (each.id !== line.id) return each;
      const { suggested: _, ...accepted } = each;
      return accepted;
    }),
  }));
}

function Row({
  editing,
  line,
  look,
  chosen,
  choose,
}: {
  editing: Editing;
  line: PairLine;
  look: PairingLook | undefined;
  chosen: boolean;
  choose: () => void;
}) {
  const { around, mayEdit, changeLine, change } = editing;
  const names = { left: placeName(line.left, around.left), right: placeName(line.right, around.right) };
  const of = look?.lines.find((each) => each.line === line.id);
  const ways = waysOf(editing, line);
  return (
    <tr
      className={cx('cursor-pointer', chosen ? 'bg-plum-wash/50' : 'hover:bg-wash')}
      onClick={choose}
      aria-selected={chosen}
    >
      <td className={cx(TD, 'max-w-[170px] pl-4', chosen && 'shadow-[inset_3px_0_0_var(--color-plum)]')}>
        <Incoming muted={line.suggested !== undefined}>{names.left}</Incoming>
      </td>
      <td className={TD}>
        <Segments
          label={`${names.left} travels`}
          options={WAYS.map((each) => ({ ...each, tone: 'bg-ink text-sheet' }))}
          chosen={line.way}
          disabled={!mayEdit}
          able={ways}
          choose={(way) => changeLine(line.id, { way })}
        />
      </td>
      <td className={cx(TD, 'max-w-[190px]')}>
        <Outgoing muted={line.suggested !== undefined}>{names.right}</Outgoing>
      </td>
      <td className={TD}>
        {line.suggested !== undefined ? (
          <span className="flex items-center gap-2 text-small">
            {mayEdit && (
              <>
                <button
                  type="button"
                  className="min-h-6 font-semibold text-plum hover:underline"
                  onClick={() => accept(editing, line)}
                  title={line.suggested.join('; ')}
                >
                  yes, link them
                </button>
                <button
                  type="button"
                  className="min-h-6 text-soft hover:underline"
                  onClick={() =>
                    change((before) => ({ ...before, lines: before.lines.filter(({ id }) => id !== line.id) }))
                  }
                >
                  no
                </button>
              </>
            )}
          </span>
        ) : line.way === 'both' ? (
          <Segments
            label={`Who decides about ${names.left}`}
            options={DECIDERS}
            chosen={line.decides}
            disabled={!mayEdit}
            choose={(decides) => changeLine(line.id, { decides })}
          />
        ) : (
          <span className="text-small text-soft">{oneWay(line, editing)}</span>
        )}
      </td>
      <td className={TD}>
        <Editable
          label={`How ${names.left} looks on the other side`}
          wide
          bare
          className="text-left"
          disabled={!mayEdit || line.suggested !== undefined}
          shown={<OnTheWay editing={editing} line={line} look={look} />}
        >
          {() => <LineSettings editing={editing} line={line} />}
        </Editable>
      </td>
      <td className={cx(TD, 'pr-4 text-right font-mono')}>{of ? count(of.differ) : ''}</td>
    </tr>
  );
}

const oneWay = ({ way, left, right, onlyEmpty, collects }: PairLine, { pairing }: Editing): string => {
  const from = way === 'to right' ? left : right;
  const name = way === 'to right' ? pairing.left.entityLabel : pairing.right.entityLabel;
  if (collects) return 'every value is gathered';
  if (onlyEmpty) return 'fills what is empty';
  if (from.compute !== undefined) return 'worked out';
  return from.path.length > 1 ? 'read through the relation' : `${name} decides`;
};

/** What becomes of values between the two fields, in a few words. */
function OnTheWay({ editing, line, look }: { editing: Editing; line: PairLine; look: PairingLook | undefined }) {
  const { around } = editing;
  if (line.suggested !== undefined)
    return <span className="text-small text-soft">{line.suggested[0] ?? 'suggested'}</span>;
  const ready = around.left && around.right ? readiedLine(line, { left: around.left, right: around.right }) : 'gone';
  if (typeof ready === 'string')
    return <Tag tone="brick">{ready === 'gone' ? 'can’t be seen' : 'can’t be applied'}</Tag>;
  const of = look?.lines.find((each) => each.line === line.id);
  const stuck = of?.stuck.reduce((sum, each) => sum + each.count, 0) ?? 0;
  const findings = look?.findings.filter(({ place }) => place.line === line.id) ?? [];
  if (findings.some(({ id }) => id === 'K19')) return <Tag tone="brick">never comes to rest</Tag>;
  if (stuck > 0) return <Tag tone="saffron">{count(stuck)} can’t be had there</Tag>;
  if (findings.some(({ id }) => id === 'K02')) return <Tag tone="saffron">options missing</Tag>;
  if (of && of.lost.length > 0) return <Tag tone="saffron">{shortLoss(of.lost[0]!.words)}</Tag>;
  return <span className="text-small text-soft">nothing lost</span>;
}

const shortLoss = (words: string): string =>
  /time of day/.test(words)
    ? 'time of day dropped'
    : /decimal|whole number/.test(words)
      ? 'rounded'
      : 'something is lost';

/** Links two more fields, or a field and what is worked out from the other side's record. */
function NewLine({ editing, made }: { editing: Editing; made: (line: string) => void }) {
  const { around, document, change } = editing;
  const [left, setLeft] = useState<Place>();
  if (!around.left || !around.right) return null;
  const taken = (side: Side): Set<string> =>
    new Set(
      document.lines
        .filter((line) => line.way !== (side === 'left' ? 'to right' : 'to left'))
        .map((line) => line[side].path.join('.')),
    );
  const link = (mine: Place, other: Place): void => {
    const id = crypto.randomUUID();
    const line = lineBetween(id, mine, other, { left: around.left!, right: around.right! });
    change((before) => ({ ...before, lines: [...before.lines, line] }));
    setLeft(undefined);
    made(id);
  };
  return (
    <Editable
      label="Link another field"
      wide
      bare
      shown={<span className="text-small font-semibold text-plum">+ link another field</span>}
    >
      {(close) =>
        left === undefined ? (
          <PlacePicker
            key="left"
            placeholder={`A field of ${around.left!.entity.label}`}
            around={around.left!}
            taken={taken('left')}
            choose={setLeft}
          />
        ) : (
          <PlacePicker
            key="right"
            placeholder={`goes with this of ${around.right!.entity.label}`}
            around={around.right!}
            taken={taken('right')}
            worksOut={left.compute === undefined}
            choose={(right) => {
              link(left, right);
              close();
            }}
          />
        )
      }
    </Editable>
  );
}
