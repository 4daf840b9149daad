import {
  choicesOf,
  describeTreatment,
  settingsOf,
  withSetting,
  type Around,
  type Choices,
  type Setting,
  type Treatment,
} from '@zusammen/core/mapping';
import type { ExpressionField } from '@zusammen/core/expressions';
import type { ReactNode } from 'react';
import { Tag } from '../../../parts/chip.tsx';
import { Editable } from '../../../parts/editable.tsx';
import { ExpressionBox } from '../../../parts/expression-box.tsx';
import { COUNTRIES, LANGUAGES } from '../../../parts/places.ts';
import { OptionPairs } from './option-pairs.tsx';

const BOX = 'h-[30px] rounded-[6px] border border-line bg-sheet px-2';

interface Props {
  treatment: Treatment;
  around: Around;
  /** What expressions may name. */
  fields?: readonly (ExpressionField & { label: string })[];
  change: (treatment: Treatment) => void;
  remove: () => void;
  /** Puts it one place earlier or later; undefined where there is none. */
  earlier?: (() => void) | undefined;
  later?: (() => void) | undefined;
}

/** One treatment as a chip; opened, its settings, as its definition lists them. */
export function TreatmentEditor({ treatment, around, fields = [], change, remove, earlier, later }: Props) {
  const settings = settingsOf(treatment.kind);
  const wide = settings.some(
    (setting) => setting.control === 'option pairs' || setting.control === 'expression' || isWideChoice(setting),
  );
  return (
    <span className="inline-flex max-w-full items-center">
      {earlier && (
        <button
          type="button"
          aria-label={`${describeTreatment(treatment)} earlier`}
          className="grid size-6 place-items-center text-soft hover:text-ink"
          onClick={earlier}
        >
          ‹
        </button>
      )}
      <Editable
        label={`Settings of ${describeTreatment(treatment)}`}
        bare
        wide={wide}
        className="max-w-[280px] truncate"
        shown={<Tag>{describeTreatment(treatment)}</Tag>}
      >
        {() => (
          <div className="p-2">
            {settings.map((setting) => (
              <Control
                key={'name' in setting ? setting.name : setting.control}
                setting={setting}
                treatment={treatment}
                around={around}
                fields={fields}
                change={change}
              />
            ))}
            {settings.length === 0 && <p className="text-small text-soft">There is nothing to set.</p>}
          </div>
        )}
      </Editable>
      <button
        type="button"
        aria-label={`Without ${describeTreatment(treatment)}`}
        className="grid size-6 place-items-center text-soft hover:text-brick"
        onClick={remove}
      >
        ×
      </button>
      {later && (
        <button
          type="button"
          aria-label={`${describeTreatment(treatment)} later`}
          className="grid size-6 place-items-center text-soft hover:text-ink"
          onClick={later}
        >
          ›
        </button>
      )}
    </span>
  );
}

/** What is chosen from depends on a schema, whose names may be long. */
const isWideChoice = (setting: Setting): boolean =>
  setting.control === 'choice' && typeof setting.choices === 'function';

function Labelled({ label, children }: { label: string; children: ReactNode }) {
  return (
    <label className="block py-1">
      <span className="mb-0.5 block text-small text-soft">{label}</span>
      {children}
    </label>
  );
}

const LISTS: Record<'countries' | 'languages', Choices> = {
  countries: [['', 'not known'], ...COUNTRIES.map(({ code, name }) => [code, name] as const)],
  languages: [['code', 'its code'], ...LANGUAGES.map(([code, name]) => [code, `its name in ${name}`] as const)],
};

function Control({
  setting,
  treatment,
  around,
  fields,
  change,
}: Pick<Props, 'treatment' | 'around' | 'change'> & Required<Pick<Props, 'fields'>> & { setting: Setting }) {
  if (setting.control === 'option pairs')
    return <OptionPairs treatment={treatment} field={around.field} sources={around.sources} change={change} />;
  const set = (said: string): void => change(withSetting(treatment, setting, said));
  switch (setting.control) {
    case 'choice': {
      const offered = choicesOf(setting, treatment, around);
      return (
        <Labelled label={setting.label}>
          <select
            className={BOX}
            value={treatment[setting.name] ?? setting.otherwise}
            onChange={({ target }) => set(target.value)}
          >
            {(typeof offered === 'string' ? LISTS[offered] : offered).map(([value, shown]) => (
              <option key={value} value={value}>
                {shown}
              </option>
            ))}
          </select>
        </Labelled>
      );
    }
    case 'text':
      return (
        <Labelled label={setting.label}>
          <input className={BOX} value={treatment[setting.name] ?? ''} onChange={({ target }) => set(target.value)} />
        </Labelled>
      );
    case 'number':
      return (
        <Labelled label={setting.label}>
          <input
            className={BOX}
            type="number"
            min={1}
            value={treatment[setting.name] ?? setting.otherwise ?? ''}
            onChange={({ target }) => set(target.value)}
          />
        </Labelled>
      );
    case 'expression':
      return <ExpressionBox label={setting.label} value={treatment[setting.name] ?? ''} fields={fields} change={set} />;
  }
}
