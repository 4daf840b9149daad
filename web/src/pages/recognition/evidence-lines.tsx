import { Fragment } from 'react';
import { PARTS, type Part, type Recognition } from '@zusammen/core/recognition';
import type { Entity } from '@zusammen/core/schema';
import type { Measure } from '@zusammen/core/api';
import { Combobox } from '../../parts/combobox.tsx';
import { cx } from '../../parts/cx.ts';
import { Editable } from '../../parts/editable.tsx';
import { aboutLabel, Bits, bitsText } from '../../parts/evidence.tsx';
import { Sheet } from '../../parts/sheet.tsx';

/** No field's name has a blank in it; an item without a value couldn't be chosen by keyboard. */
const NO_FIELD = 'no field';

/** What each comparison weighs when it agrees, and when it doesn't, by what was met among the known records. */
export function EvidenceLines({
  entity,
  recognition,
  measure,
  ignored,
  change,
  may,
}: {
  entity: Entity;
  recognition: Recognition;
  measure: Measure;
  ignored: readonly { field: string; value: string; count: number }[];
  change: (recognition: Recognition) => void;
  may: boolean;
}) {
  const labelOf = (name: string): string => entity.fields.find((field) => field.name === name)?.label ?? name;
  const abouts = [...new Set(measure.levels.map(({ about }) => about))];
  const lines = abouts.map((about) => {
    const levels = measure.levels.filter((each) => each.about === about).sort((a, b) => b.bits - a.bits);
    return { about, best: levels[0]!, worst: levels.at(-1)!, levels };
  });
  const widest = Math.max(4, ...lines.flatMap(({ best, worst }) => [best.bits, -worst.bits]));
  const width = (bits: number): string => `${(Math.min(Math.abs(bits), widest) / widest) * 50}%`;
  const unused = PARTS[recognition.kind].filter((part) => !recognition.parts.some((each) => each.part === part));
  const addable = may && unused.length > 0;
  const choose = (part: Part, field: string | undefined): void =>
    change({
      ...recognition,
      parts: [
        ...recognition.parts.filter((each) => each.part !== part),
        ...(field === undefined ? [] : [{ part, field }]),
      ],
    });
  return (
    <Sheet title="What counts as evidence" aside="differs · agrees, in bits">
      <ul>
        {lines.map(({ about, best, worst, levels }) => (
          <li
            key={about}
            className="grid grid-cols-[minmax(0,1fr)_132px_50px] items-center gap-3 border-t border-hair px-4 py-[6px] first:border-t-0"
            title={levels.map(({ level, bits, count }) => `${level} ${bitsText(bits)} (${count})`).join('\n')}
          >
            <span className="truncate">
              <strong className="font-semibold">{aboutLabel(about, recognition, labelOf)}</strong>{' '}
              <span className="text-small text-soft">{best.level}</span>
            </span>
            <span aria-hidden className="relative h-[10px]">
              <span className="absolute inset-y-[-4px] left-1/2 w-px bg-line" />
              {worst.bits < 0 && (
                <span
                  className="absolute inset-y-0 right-1/2 rounded-l-[3px] bg-brick"
                  style={{ width: width(worst.bits) }}
                />
              )}
              {best.bits > 0 && (
                <span
                  className="absolute inset-y-0 left-1/2 rounded-r-[3px] bg-moss"
                  style={{ width: width(best.bits) }}
                />
              )}
            </span>
            <span className="text-right">
              <Bits bits={best.bits} />
            </span>
          </li>
        ))}
      </ul>
      <p className="border-t border-hair px-4 py-2.5 leading-7">
        Read from{' '}
        {recognition.parts.map(({ part, field }, at) => (
          <Fragment key={part}>
            {at > 0 && ' '}
            <span className="inline-flex max-w-full">
              <Editable
                className="truncate"
                label={`Field for ${said(part)}`}
                wide
                disabled={!may}
                shown={labelOf(field)}
              >
                {(close) => (
                  <Combobox
                    placeholder={`Which field holds the ${said(part)}?`}
                    items={[
                      ...fieldItems(entity, recognition),
                      { value: NO_FIELD, label: 'leave it out', words: 'leave out none', group: 'Or' },
                    ]}
                    choose={(value) => (choose(part, value === NO_FIELD ? undefined : value), close())}
                  />
                )}
              </Editable>
              {at < recognition.parts.length - 1 ? ',' : addable ? ';' : '.'}
            </span>
          </Fragment>
        ))}
        {addable && (
          <>
            {' '}
            <Editable label="Another field" wide shown="add another">
              {(close) => (
                <Combobox
                  placeholder="What else says something?"
                  items={unused.flatMap((part) =>
                    fieldItems(entity, recognition).map((item) => ({
                      ...item,
                      value: `${part} ${item.value}`,
                      words: `${said(part)} ${item.words}`,
                      group: `The ${said(part)} stands in`,
                    })),
                  )}
                  choose={(value) => {
                    const [part, field] = value.split(' ') as [Part, string];
                    choose(part, field);
                    close();
                  }}
                />
              )}
            </Editable>
            .
          </>
        )}
      </p>
      {ignored.length > 0 && (
        <p className="border-t border-hair px-4 py-2 text-small text-soft">
          Says nothing, since it only fills a field:{' '}
          {ignored.slice(0, 6).map(({ field, value, count }, at) => (
            <span key={`${field} ${value}`}>
              {at > 0 && ', '}
              {labelOf(field)} <span className="font-mono text-saffron">{value}</span> ({count.toLocaleString()})
            </span>
          ))}
          {ignored.length > 6 && ` and ${ignored.length - 6} more`}.
        </p>
      )}
    </Sheet>
  );
}

const said = (part: Part): string => part.replaceAll('_', ' ');

const fieldItems = (entity: Entity, { parts }: Recognition) =>
  entity.fields
    .filter(
      ({ name, rights, type }) =>
        rights !== 'none' && type !== 'id' && type !== 'reference' && !parts.some(({ field }) => field === name),
    )
    .map(({ name, label, type }) => ({ value: name, label, words: `${label} ${name}`, note: type }));

/** How well a single key tells known records apart. */
export function KeysTable({
  entity,
  recognition,
  measure,
}: {
  entity: Entity;
  recognition: Recognition;
  measure: Measure;
}) {
  const labelOf = (part: Part): string => {
    const field = recognition.parts.find((each) => each.part === part)?.field;
    return entity.fields.find(({ name }) => name === field)?.label ?? said(part);
  };
  const keyLabel = (parts: readonly Part[]): string => {
    const whole = parts.includes('first_name') && parts.includes('last_name');
    const rest = whole ? parts.filter((part) => part !== 'first_name' && part !== 'last_name') : parts;
    return [...(whole ? ['Full name'] : []), ...rest.map(labelOf)].join(' + ');
  };
  const percent = (share: number): string => `${(share * 100).toFixed(share > 0 && share < 0.1 ? 1 : 0)} %`;
  const rows = measure.keys
    .filter(({ filled }) => filled > 0)
    .map((key) => ({ ...key, share: key.shared / key.filled, others: key.looked === 0 ? 0 : key.apart / key.looked }))
    .sort((a, b) => a.share * a.others - b.share * b.others);
  return (
    <Sheet title="How well a single key tells them apart">
      <table className="w-full">
        <thead>
          <tr>
            <th className="px-4 py-1.5 text-left text-small font-semibold text-soft">Key alone</th>
            <th className="px-2 py-1.5 text-right text-small font-semibold text-soft">Filled</th>
            <th className="px-2 py-1.5 text-right text-small font-semibold text-soft" title="Of those filled">
              Shared
            </th>
            <th className="px-4 py-1.5 text-left text-small font-semibold text-soft">As a key</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ parts, filled, of, share, others, looked }) => {
            const mixes = share * others;
            const [word, tone] =
              share < 0.02
                ? ['good key', 'bg-moss-wash text-moss']
                : mixes < 0.02
                  ? ['doubles share it', 'bg-moss-wash text-moss']
                  : mixes < 0.15
                    ? ['some share it', 'bg-sand text-soft']
                    : ['mixes them up', 'bg-saffron-wash text-saffron'];
            return (
              <tr key={parts.join()}>
                <td
                  className="max-w-0 w-full truncate border-t border-hair px-4 py-[5px]"
                  title={parts.map(labelOf).join(' with ')}
                >
                  {keyLabel(parts)}
                </td>
                <td className="border-t border-hair px-2 py-[5px] text-right font-mono text-[13px] whitespace-nowrap">
                  {percent(filled / of)}
                </td>
                <td
                  className="border-t border-hair px-2 py-[5px] text-right font-mono text-[13px] whitespace-nowrap"
                  title={
                    looked > 0 ? `Of ${looked} looked at, ${percent(others)} share it with somebody else.` : undefined
                  }
                >
                  {percent(share)}
                </td>
                <td className="border-t border-hair px-4 py-[5px]">
                  <span className={cx('rounded-[5px] px-2 py-0.5 text-small font-semibold whitespace-nowrap', tone)}>
                    {word}
                  </span>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </Sheet>
  );
}
