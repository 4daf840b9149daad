import type { ColumnEvidence } from '@zusammen/core/forms';
import {
  joinedIn,
  saidByRows,
  withOptions,
  type ReferenceSeen,
  type SheetColumn,
  type SheetEntity,
} from '@zusammen/core/new-entities';
import type { Entity } from '@zusammen/core/schema';
import { useState } from 'react';
import { Incoming, Outgoing, Tag } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { RowsInSight } from '../../parts/in-sight.tsx';
import { useKeys } from '../../parts/keys.ts';
import { TD, TH } from '../../parts/sheet.tsx';
import { count } from '../../parts/time.tsx';
import { Becomes } from './becomes.tsx';
import { FieldOf } from './field-of.tsx';

interface Props {
  sheet: SheetEntity;
  evidence: ReadonlyMap<string, ColumnEvidence>;
  references: ReadonlyMap<string, ReferenceSeen>;
  /** Rows to be paged through, with the headings in their order. */
  sample: readonly { line: number; cells: string[] }[];
  columns: readonly string[];
  rows: number;
  entities: readonly Entity[];
  change: (next: SheetEntity) => void;
  refer: (column: SheetColumn, entity: Entity) => void;
  disabled: boolean;
}

/** Each column with a real value of it, what it becomes, and what its rows say. */
export function ColumnsTable(props: Props) {
  const { sheet, sample, columns, rows } = props;
  const [at, setAt] = useState(0);
  const row = sample[Math.min(at, sample.length - 1)];
  const go = (by: number): void => setAt(Math.max(0, Math.min(sample.length - 1, at + by)));
  useKeys({ ArrowLeft: () => go(-1), ArrowRight: () => go(1) });
  const valueOf = (column: string): string => row?.cells[columns.indexOf(column)] ?? '';
  return (
    <table className="w-full table-fixed">
      <thead>
        <tr>
          <th className={cx(TH, 'w-[14%] pl-4')}>Column</th>
          <th className={cx(TH, 'w-[17%]')}>
            <span title={row && `line ${row.line}`}>
              Row {row ? at + 1 : '–'} of {count(rows)}
            </span>
            <Turn label="The row before" sign="‹" act={() => go(-1)} disabled={at === 0} />
            <Turn label="The next row" sign="›" act={() => go(1)} disabled={at >= sample.length - 1} />
          </th>
          <th className={cx(TH, 'w-[17%]')}>Becomes</th>
          <th className={cx(TH, 'w-[14%]')}>Field</th>
          <th className={TH}>What the rows say</th>
        </tr>
      </thead>
      <RowsInSight of={sheet.columns} nameOf={({ column }) => column} columns={5} height={38} chosen={null}>
        {(column) => <ColumnRow key={column.column} {...props} column={column} value={valueOf(column.column)} />}
      </RowsInSight>
    </table>
  );
}

function Turn({ label, sign, act, disabled }: { label: string; sign: string; act: () => void; disabled: boolean }) {
  return (
    <button
      type="button"
      aria-label={label}
      disabled={disabled}
      onClick={act}
      className="ml-1 inline-grid size-6 place-items-center rounded-[5px] hover:bg-wash disabled:opacity-40"
    >
      {sign}
    </button>
  );
}

function ColumnRow({
  sheet,
  column,
  value,
  evidence: all,
  references,
  entities,
  change,
  refer,
  disabled,
}: Props & { column: SheetColumn; value: string }) {
  const evidence = all.get(column.column);
  if (!evidence) return null;
  const reference = references.get(column.column);
  const put = (next: SheetColumn): void =>
    change({ ...sheet, columns: sheet.columns.map((each) => (each.column === column.column ? next : each)) });
  const taken = sheet.columns.flatMap(({ column: other, field }) =>
    field && other !== column.column ? [field.name] : [],
  );
  const { field } = column;
  return (
    <tr className={cx(!field && 'opacity-70')}>
      <td className={cx(TD, 'truncate pl-4')} title={column.column}>
        <Incoming muted={!field}>{column.column}</Incoming>
      </td>
      <td className={cx(TD, 'truncate font-mono text-[13px]')} title={value}>
        {value === '' ? <span className="text-soft">–</span> : value}
      </td>
      <td className={cx(TD, 'truncate')}>
        <Becomes
          {...{ column, evidence, entities, taken, disabled }}
          change={put}
          refer={(entity) => refer(column, entity)}
        />
      </td>
      <td className={cx(TD, 'truncate')}>
        <FieldOf column={column} change={put} disabled={disabled} />
      </td>
      <td className={cx(TD, 'text-small')}>
        <RowsSay {...{ column, evidence, reference, entities, disabled }} put={put} refer={(to) => refer(column, to)} />
      </td>
    </tr>
  );
}

/** What the rows say: marks, what needs a look with what would settle it, and the rest in words. */
function RowsSay({
  column,
  evidence,
  reference,
  entities,
  disabled,
  put,
  refer,
}: {
  column: SheetColumn;
  evidence: ColumnEvidence;
  reference: ReferenceSeen | undefined;
  entities: readonly Entity[];
  disabled: boolean;
  put: (next: SheetColumn) => void;
  refer: (entity: Entity) => void;
}) {
  const { field } = column;
  const said = saidByRows(column, evidence, reference);
  const leads =
    reference && field && field.type !== 'reference'
      ? entities.find(({ name }) => name === reference.reference.entity)
      : undefined;
  const apart = field?.options ? notJoined(column, evidence) : undefined;
  return (
    <span className="flex flex-wrap items-center gap-x-2 gap-y-0.5">
      {field?.unique && <Tag tone="moss">unique</Tag>}
      {field?.required && !field.unique && <Tag tone="plum">required</Tag>}
      {leads && (
        <span>
          {count(reference!.found)} of {count(reference!.of)} name a <Outgoing>{leads.label}</Outgoing>{' '}
          {!disabled && (
            <button type="button" className="font-semibold text-plum hover:underline" onClick={() => refer(leads)}>
              make it a reference
            </button>
          )}
        </span>
      )}
      {apart && (
        <span className="rounded-[5px] bg-saffron-wash px-2 py-0.5 font-semibold text-saffron">
          <span aria-hidden="true">◆</span> “{apart.other}” may be “{apart.value.trim()}”{' '}
          {!disabled && (
            <button type="button" className="text-plum hover:underline" onClick={() => put(apart.joined)}>
              join
            </button>
          )}
        </span>
      )}
      {said.map(({ words, look }) =>
        look ? (
          <span key={words} className="font-semibold text-saffron">
            <span aria-hidden="true">◆</span> {words}
          </span>
        ) : (
          <span key={words} className="text-soft">
            {words}
          </span>
        ),
      )}
    </span>
  );
}

/** The first likely typing error among the options that still stands by itself, and the column with it joined. */
function notJoined(column: SheetColumn, evidence: ColumnEvidence) {
  const joined = [...joinedIn(column).values()];
  const first = (value: string): string | undefined => joined.find((each) => each.includes(value))?.[0];
  for (const { value, others } of evidence.alike ?? []) {
    const other = others.find((each) => first(each) !== first(value));
    if (other === undefined) continue;
    const already = joined.flatMap(([head, ...rest]) =>
      head !== undefined && rest.length > 0 ? [{ value: head, others: rest, sure: true }] : [],
    );
    const own = already.find((each) => each.value === value);
    const joins = own
      ? already.map((each) => (each === own ? { ...own, others: [...own.others, other] } : each))
      : [...already, { value, others: [other], sure: true }];
    return { value, other, joined: withOptions(column, evidence, joins) };
  }
  return undefined;
}
