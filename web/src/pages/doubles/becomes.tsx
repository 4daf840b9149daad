import type { Entity, Field, RecordState, Value } from '@zusammen/core/schema';
import { isBlank, sameValue } from '@zusammen/core/values';
import { Differing } from '../../parts/difference.tsx';
import { ValueText } from '../../parts/values.tsx';

interface Props {
  fields: Entity['fields'];
  records: readonly RecordState[];
  /** The id of the record whose value of a field is kept. */
  keptFrom: (field: string) => string | undefined;
  /** Keeps another record's value of a field; undefined where none can be chosen. */
  keep: (field: string) => ((record: string) => void) | undefined;
}

/** The one record that several become, field by field: what is kept, and what else is said. */
export function Becomes({ fields, records, keptFrom, keep }: Props) {
  return (
    <dl>
      {sorted(fields, records).map(({ field: { name, label }, voices }) => {
        const from = keptFrom(name);
        const choose = keep(name);
        const stays = voices.find(({ ids }) => from !== undefined && ids.includes(from));
        const others = voices.filter((voice) => voice !== stays);
        return (
          <div
            key={name}
            className="grid grid-cols-[minmax(110px,17%)_minmax(0,5fr)_minmax(0,7fr)] items-baseline gap-x-4 border-t border-hair px-4 py-1.5 first:border-t-0"
          >
            <dt className="truncate text-soft">{label}</dt>
            <dd className="min-w-0 break-words">
              {stays ? (
                <>
                  <ValueText value={stays.value} tone={others.length > 0 ? 'font-bold text-moss' : undefined} />
                  <Said ids={stays.ids} all={records.length} />
                </>
              ) : (
                <span className="text-small text-soft">nothing is kept</span>
              )}
            </dd>
            <dd className="flex min-w-0 flex-wrap items-baseline gap-x-4 gap-y-1">
              {others.map(({ value, ids }) => (
                <span key={ids.join()} className="inline-flex min-w-0 items-baseline">
                  {choose ? (
                    <button
                      type="button"
                      aria-label={`Keep ${label} of ${ids[0]}`}
                      title="Keep this instead"
                      className="min-h-6 min-w-0 border-b border-dashed border-line text-left break-words hover:border-moss hover:text-moss"
                      onClick={() => choose(ids[0]!)}
                    >
                      <Differing value={value} other={stays?.value} />
                    </button>
                  ) : (
                    <Differing value={value} other={stays?.value} />
                  )}
                  <Said ids={ids} all={records.length} />
                </span>
              ))}
            </dd>
          </div>
        );
      })}
    </dl>
  );
}

/** Which records say so; nothing where all do. */
function Said({ ids, all }: { ids: readonly string[]; all: number }) {
  if (ids.length === all) return null;
  return <span className="ml-2 shrink-0 font-mono text-[12px] whitespace-nowrap text-soft">{ids.join(' ')}</span>;
}

/** One value of a field, with the records that hold it. */
interface Voice {
  value: Value;
  ids: string[];
}

/** Each field with what is said of it, those where records differ first, then those that only some fill, then the rest. */
function sorted(fields: Entity['fields'], records: readonly RecordState[]): { field: Field; voices: Voice[] }[] {
  const told = fields.map((field) => {
    const voices: Voice[] = [];
    for (const { id, values } of records) {
      const value = values[field.name] ?? null;
      if (isBlank(value)) continue;
      const same = voices.find((voice) => sameValue(voice.value, value));
      if (same) same.ids.push(id);
      else voices.push({ value, ids: [id] });
    }
    return { field, voices };
  });
  // What the system fills by itself tells nobody who it is.
  const rank = ({ field, voices }: (typeof told)[number]): number =>
    field.computed ? 3 : voices.length > 1 ? 0 : voices[0]?.ids.length === records.length ? 2 : 1;
  return told.sort((a, b) => rank(a) - rank(b));
}
