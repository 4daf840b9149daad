import { describeTreatment, evaluateLine, prepareLine, type Line } from '@zusammen/core/mapping';
import type { Step } from '@zusammen/core/plans';
import { fieldOf, mustBeGiven, type Entity, type RecordState } from '@zusammen/core/schema';
import { isBlank, sameValue } from '@zusammen/core/values';
import { useEffect, useState, type ReactNode } from 'react';
import type { Rehearsed } from '../../../api/types.ts';
import { Incoming, Outgoing, Tag } from '../../../parts/chip.tsx';
import { Combobox } from '../../../parts/combobox.tsx';
import { cx } from '../../../parts/cx.ts';
import { Editable } from '../../../parts/editable.tsx';
import { Key } from '../../../parts/key.tsx';
import { listKeys, useKeys } from '../../../parts/keys.ts';
import { TD, TH } from '../../../parts/sheet.tsx';
import { Empty } from '../../../parts/states.tsx';
import { ValueText } from '../../../parts/values.tsx';
import { useDraft } from '../draft.tsx';
import { LineEditor } from './line-editor.tsx';
import { targetItems } from './target-items.ts';
import { useSuggest } from './suggest.ts';

interface Props {
  step: Step;
  entity: Entity;
  edit: (work: (step: Step) => Step) => void;
  sample: number;
  setSample: (at: number) => void;
  rehearsed: Rehearsed[] | undefined;
}

/** The lines with a real sample beside each: comes from, treated, goes in as, and what the record holds now. */
export function Lines({ step, entity, edit, sample, setSample, rehearsed }: Props) {
  const { document, samples, mayEdit, undo, redo } = useDraft();
  const suggest = useSuggest();
  const [at, setAt] = useState(0);
  const [open, setOpen] = useState<string>();
  const [said, setSaid] = useState('');
  const values = samples[sample]?.values;
  const present = rehearsed?.[sample]?.present[step.id];
  const lines = step.lines;
  const editLine = (id: string, work: (line: Line) => Line): void =>
    edit((held) => ({
      ...held,
      lines: held.lines.map((line) => (line.id === id ? { ...work(line), origin: 'set' } : line)),
    }));
  const remove = (id: string): void =>
    edit((held) => ({ ...held, lines: held.lines.filter((line) => line.id !== id) }));
  const suggestRest = async (): Promise<void> => {
    const more = await suggest(document, entity, lines);
    setSaid(
      more.length === 0
        ? 'Nothing more suggests itself.'
        : more.length === 1
          ? 'One line suggested.'
          : `${more.length} lines suggested.`,
    );
    if (more.length > 0) edit((held) => ({ ...held, lines: [...held.lines, ...more] }));
  };
  const acceptAll = (): void =>
    edit((held) => ({ ...held, lines: held.lines.map((line) => ({ ...line, origin: 'set' })) }));
  const offered = lines.filter(({ origin }) => origin === 'suggested').length;
  useKeys({
    ...listKeys(lines.length, at, setAt),
    Enter: () => lines[at] && setOpen(open === lines[at].id ? undefined : lines[at].id),
    Escape: () => setOpen(undefined),
    '[': () => setSample(Math.max(0, sample - 1)),
    ']': () => setSample(Math.min(samples.length - 1, sample + 1)),
    ...(mayEdit
      ? {
          a: () => lines[at] && editLine(lines[at].id, (line) => line),
          x: () => lines[at] && remove(lines[at].id),
          s: () => void suggestRest(),
          'ctrl+z': undo,
          'ctrl+y': redo,
        }
      : {}),
  });
  useEffect(() => {
    const go = (event: Event): void => {
      const id = (event as CustomEvent<string>).detail;
      const index = lines.findIndex((line) => line.id === id);
      if (index >= 0) {
        setAt(index);
        setOpen(id);
      }
    };
    window.addEventListener('zusammen:line', go);
    return () => window.removeEventListener('zusammen:line', go);
  }, [lines]);
  const used = new Set(lines.flatMap(({ from }) => from));
  const unused = document.fields.filter(({ name }) => !used.has(name));
  const needed = entity.fields.filter(mustBeGiven);
  const filled = needed.filter(({ name }) =>
    lines.some(({ field, origin }) => field === name && origin === 'set'),
  ).length;
  return (
    <>
      <table className="w-full table-fixed">
        <thead>
          <tr>
            <th className={cx(TH, 'w-[17%] pl-4')}>Comes from</th>
            <th className={cx(TH, 'w-[16%]')}>
              {samples.length === 0 ? (
                'No samples'
              ) : (
                <span className="inline-flex items-center gap-1.5">
                  Sample {sample + 1} of {samples.length}
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
                    disabled={sample >= samples.length - 1}
                    className="px-1 font-bold text-plum disabled:text-soft"
                    onClick={() => setSample(sample + 1)}
                  >
                    ›
                  </button>
                </span>
              )}
            </th>
            <th className={cx(TH, 'w-[16%]')}>Treatment</th>
            <th className={cx(TH, 'w-[14%]')}>Goes in as</th>
            <th className={cx(TH, 'w-[17%]')}>Field</th>
            <th className={cx(TH, 'w-[13%]')}>In the system now</th>
            <th className={TH}>If both</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line, index) => (
            <Row
              key={line.id}
              line={line}
              entity={entity}
              values={values}
              present={present}
              chosen={index === at}
              open={open === line.id}
              choose={() => {
                setAt(index);
                setOpen(open === line.id ? undefined : line.id);
              }}
            >
              {open === line.id && (
                <LineEditor
                  line={line}
                  entity={entity}
                  values={values}
                  taken={new Set(lines.map(({ field }) => field))}
                  edit={(work) => editLine(line.id, work)}
                  remove={() => remove(line.id)}
                  close={() => setOpen(undefined)}
                />
              )}
            </Row>
          ))}
        </tbody>
      </table>
      {lines.length === 0 && (
        <Empty title="No lines yet">Press S to have them suggested, or choose a field below.</Empty>
      )}
      <div className="flex items-center justify-between gap-4 border-t border-hair px-4 py-2.5">
        <div className="flex min-w-0 flex-wrap items-center gap-1.5">
          <span className="mr-1 text-small text-soft">Not used here:</span>
          {unused.length === 0 && <span className="text-small text-soft">nothing</span>}
          {unused.map((source) => (
            <Editable
              key={source.name}
              bare
              label={`Use ${source.label}`}
              wide
              disabled={!mayEdit}
              shown={<Incoming>{source.label}</Incoming>}
            >
              {(close) => (
                <Combobox
                  placeholder={`Where does ${source.label} go?`}
                  items={targetItems(entity, new Set(lines.map(({ field }) => field)))}
                  choose={(name) => {
                    const field = fieldOf(entity, name)!;
                    edit((held) => ({
                      ...held,
                      lines: [
                        ...held.lines,
                        prepareLine(crypto.randomUUID().slice(0, 8), [source], field, document.settings),
                      ],
                    }));
                    close();
                  }}
                />
              )}
            </Editable>
          ))}
          {mayEdit && (
            <Editable label="Always the same" bare wide shown={<Tag>always the same…</Tag>}>
              {(close) => (
                <Combobox
                  placeholder="Which field is always the same?"
                  items={targetItems(entity, new Set(lines.map(({ field }) => field)))}
                  choose={(name) => {
                    const id = crypto.randomUUID().slice(0, 8);
                    edit((held) => ({
                      ...held,
                      lines: [
                        ...held.lines,
                        {
                          id,
                          from: [],
                          constant: '',
                          treatments: [],
                          field: name,
                          ifBoth: 'new records only',
                          blankErases: false,
                          origin: 'set',
                        },
                      ],
                    }));
                    setAt(lines.length);
                    setOpen(id);
                    close();
                  }}
                />
              )}
            </Editable>
          )}
        </div>
        <p className="flex shrink-0 items-center gap-2 text-small text-soft" aria-live="polite">
          {said && <span>{said}</span>}
          {needed.length === 1 ? `${filled} of 1 needed field set` : `${filled} of ${needed.length} needed fields set`}
          {mayEdit && offered > 0 && (
            <button type="button" className="font-semibold text-plum hover:underline" onClick={acceptAll}>
              accept all {offered}
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
    </>
  );
}

interface RowProps {
  line: Line;
  entity: Entity;
  values: Record<string, string | string[]> | undefined;
  present: RecordState | undefined;
  chosen: boolean;
  open: boolean;
  choose: () => void;
  children: ReactNode;
}

function Row({ line, entity, values, present, chosen, open, choose, children }: RowProps) {
  const { document, findings } = useDraft();
  const field = fieldOf(entity, line.field);
  const outcome = field && evaluateLine(line, values ?? {}, field);
  const marked = new Map(
    findings.filter(({ place }) => place.line === line.id).map((finding) => [finding.id, finding]),
  );
  const worst = [...marked.values()].some(({ severity }) => severity === 'stops')
    ? 'brick'
    : marked.size > 0
      ? 'saffron'
      : 'sand';
  const current = present?.values[line.field];
  const replaced =
    !isBlank(outcome?.sent) && !isBlank(current) && !sameValue(outcome?.sent, current) && line.ifBoth === 'write';
  const offered = line.origin === 'suggested';
  const sources = line.from.map((name) => document.fields.find((each) => each.name === name)?.label ?? name);
  return (
    <>
      <tr
        className={cx('cursor-pointer hover:bg-wash', chosen && 'bg-plum-wash/60', offered && 'italic')}
        onClick={choose}
        aria-selected={chosen}
        data-field={line.field}
      >
        <td className={cx(TD, 'pl-4', chosen && 'shadow-[inset_3px_0_0_var(--color-plum)]')}>
          <button
            type="button"
            className="flex max-w-full gap-1"
            aria-expanded={open}
            aria-label={`Edit the line to ${field?.label ?? line.field}`}
            onClick={(event) => (event.stopPropagation(), choose())}
          >
            {sources.length === 0 ? (
              <Tag>always the same</Tag>
            ) : (
              sources.map((label, at) => (
                <Incoming key={at} muted={offered}>
                  {label}
                </Incoming>
              ))
            )}
          </button>
        </td>
        <td className={cx(TD, 'truncate')}>
          {line.from.length === 0 ? (
            <span className="text-soft">–</span>
          ) : (
            <ValueText
              value={
                outcome?.came.length === 1
                  ? outcome.came[0]!
                  : (outcome?.came.map((each) => (Array.isArray(each) ? each.join(', ') : (each ?? ''))).join(' · ') ??
                    null)
              }
            />
          )}
        </td>
        <td className={cx(TD, 'truncate')}>
          <span className="flex gap-1">
            {line.treatments.map((treatment, at) => (
              <Tag key={at} tone={at === line.treatments.length - 1 ? worst : 'sand'}>
                {describeTreatment(treatment)}
              </Tag>
            ))}
            {line.treatments.length === 0 && marked.size > 0 && <Tag tone={worst}>look</Tag>}
          </span>
        </td>
        <td className={cx(TD, 'truncate')}>
          {outcome?.problem ? (
            <span className="text-small text-brick" title={outcome.problem}>
              ▲ {outcome.problem}
            </span>
          ) : (
            <ValueText value={outcome?.sent} tone={outcome && outcome.losses.length > 0 ? 'text-saffron' : undefined} />
          )}
        </td>
        <td className={TD}>
          <Outgoing muted={offered}>
            {field?.label ?? line.field}
            {field && mustBeGiven(field) && <span className="font-bold"> needed</span>}
          </Outgoing>
        </td>
        <td className={cx(TD, 'truncate', replaced && 'line-through')}>
          {present ? (
            <ValueText value={current} tone="text-soft" />
          ) : (
            <span className="text-small text-soft">{values ? 'no record' : ''}</span>
          )}
        </td>
        <td className={cx(TD, 'truncate text-small text-soft')}>
          {offered ? `suggested ${Math.round((line.confidence ?? 0) * 100)} %` : line.ifBoth}
        </td>
      </tr>
      {children && (
        <tr>
          <td colSpan={7} className="border-t border-hair bg-wash p-0">
            {children}
          </td>
        </tr>
      )}
    </>
  );
}
