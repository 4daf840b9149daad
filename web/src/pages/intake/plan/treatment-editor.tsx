import { describeTreatment, type Treatment, type TreatmentKind } from '@zusammen/core/mapping';
import type { Field } from '@zusammen/core/schema';
import type { ReactNode } from 'react';
import { Editable } from '../../../parts/editable.tsx';
import { Tag } from '../../../parts/chip.tsx';

export const TREATMENT_NAMES: Record<TreatmentKind, string> = {
  trim: 'trim spaces',
  case: 'capital and small letters',
  join: 'join',
  split: 'split',
  replace: 'replace a text',
  default: 'stand-in for a blank',
  phone: 'phone',
  email: 'e-mail',
  'web address': 'web address',
  number: 'number',
  date: 'date',
  options: 'pair options',
};

const COUNTRIES = ['DE', 'PL', 'GB', 'NL', 'DK', 'AT', 'CH', 'FR', 'ES', 'IT', 'IE', 'US'];
const countryNames = new Intl.DisplayNames(['en'], { type: 'region' });
const BOX = 'h-[30px] rounded-[6px] border border-line bg-sheet px-2';

interface Props {
  treatment: Treatment;
  field: Field | undefined;
  sources: readonly { options?: readonly { value: string; label: string }[] }[];
  change: (treatment: Treatment) => void;
  remove: () => void;
}

/** One treatment as a chip; opened, its settings. */
export function TreatmentEditor({ treatment, field, sources, change, remove }: Props) {
  return (
    <span className="inline-flex items-center">
      <Editable
        label={`Settings of ${describeTreatment(treatment)}`}
        bare
        wide={treatment.kind === 'options'}
        shown={<Tag>{describeTreatment(treatment)}</Tag>}
      >
        {() => <div className="p-2">{settingsOf(treatment, field, sources, change)}</div>}
      </Editable>
      <button
        type="button"
        aria-label={`Without ${describeTreatment(treatment)}`}
        className="grid size-6 place-items-center text-soft hover:text-brick"
        onClick={remove}
      >
        ×
      </button>
    </span>
  );
}

function Setting({ label, children }: { label: string; children: ReactNode }) {
  return (
    <label className="block py-1">
      <span className="mb-0.5 block text-small text-soft">{label}</span>
      {children}
    </label>
  );
}

function settingsOf(
  treatment: Treatment,
  field: Field | undefined,
  sources: Props['sources'],
  change: Props['change'],
): ReactNode {
  switch (treatment.kind) {
    case 'phone':
      return (
        <Setting label="Numbers without a country code are dialled from">
          <select
            className={BOX}
            value={treatment.country ?? ''}
            onChange={({ target }) => {
              const { country: _, ...rest } = treatment;
              change(target.value === '' ? rest : { ...rest, country: target.value });
            }}
          >
            <option value="">not known</option>
            {COUNTRIES.map((code) => (
              <option key={code} value={code}>
                {countryNames.of(code)}
              </option>
            ))}
          </select>
        </Setting>
      );
    case 'join':
      return (
        <Setting label="Between the parts">
          <select
            className={BOX}
            value={treatment.separator ?? ' '}
            onChange={({ target }) => change({ ...treatment, separator: target.value })}
          >
            <option value=" ">a space</option>
            <option value=", ">a comma</option>
            <option value="-">a hyphen</option>
            <option value={'\n'}>a new line</option>
            <option value="">nothing</option>
          </select>
        </Setting>
      );
    case 'split':
      return (
        <>
          <Setting label="Split at">
            <input
              className={BOX}
              value={treatment.separator ?? ','}
              onChange={({ target }) => change({ ...treatment, separator: target.value })}
            />
          </Setting>
          <Setting label="Take part number (blank takes all)">
            <input
              className={BOX}
              type="number"
              min={1}
              value={treatment.part ?? ''}
              onChange={({ target }) => {
                const { part: _, ...rest } = treatment;
                change(target.value === '' ? rest : { ...rest, part: Math.max(1, Math.round(Number(target.value))) });
              }}
            />
          </Setting>
        </>
      );
    case 'case':
      return (
        <Setting label="Letters">
          <select
            className={BOX}
            value={treatment.case ?? 'lower'}
            onChange={({ target }) => change({ ...treatment, case: target.value as 'lower' | 'upper' | 'title' })}
          >
            <option value="title">Capital first</option>
            <option value="lower">small letters</option>
            <option value="upper">CAPITALS</option>
          </select>
        </Setting>
      );
    case 'replace':
      return (
        <>
          <Setting label="This text">
            <input
              className={BOX}
              value={treatment.find ?? ''}
              onChange={({ target }) => change({ ...treatment, find: target.value })}
            />
          </Setting>
          <Setting label="becomes">
            <input
              className={BOX}
              value={treatment.with ?? ''}
              onChange={({ target }) => change({ ...treatment, with: target.value })}
            />
          </Setting>
        </>
      );
    case 'default':
      return (
        <Setting label="A blank becomes">
          <input
            className={BOX}
            value={treatment.value ?? ''}
            onChange={({ target }) => change({ ...treatment, value: target.value })}
          />
        </Setting>
      );
    case 'number':
      return (
        <Setting label="Visitors write decimals with a">
          <select
            className={BOX}
            value={treatment.decimal ?? ''}
            onChange={({ target }) => {
              const { decimal: _, ...rest } = treatment;
              change(target.value === '' ? rest : { ...rest, decimal: target.value as 'comma' | 'point' });
            }}
          >
            <option value="">not known</option>
            <option value="comma">comma: 12,5</option>
            <option value="point">point: 12.5</option>
          </select>
        </Setting>
      );
    case 'date':
      return (
        <Setting label="Visitors write">
          <select
            className={BOX}
            value={treatment.order ?? ''}
            onChange={({ target }) => {
              const { order: _, ...rest } = treatment;
              change(
                target.value === ''
                  ? rest
                  : { ...rest, order: target.value as 'day first' | 'month first' | 'year first' },
              );
            }}
          >
            <option value="">not known</option>
            <option value="day first">day first: 20.4.2027</option>
            <option value="month first">month first: 4/20/2027</option>
            <option value="year first">year first: 2027-04-20</option>
          </select>
        </Setting>
      );
    case 'options':
      return <OptionPairs treatment={treatment} field={field} sources={sources} change={change} />;
    default:
      return <p className="text-small text-soft">There is nothing to set.</p>;
  }
}

/** Each option sent with its counterpart; what isn't paired is said, never dropped in silence. */
function OptionPairs({ treatment, field, sources, change }: Pick<Props, 'treatment' | 'field' | 'sources' | 'change'>) {
  const pairs = treatment.pairs ?? [];
  const sent = sources.flatMap(({ options }) => options ?? []);
  const rows = [
    ...sent.map(({ value, label }) => ({ from: value, label })),
    ...pairs.filter(({ from }) => !sent.some(({ value }) => value === from)).map(({ from }) => ({ from, label: from })),
  ];
  const set = (from: string, to: string): void => {
    const rest = pairs.filter((pair) => pair.from !== from);
    change({ ...treatment, pairs: [...rest, to === '?' ? { from } : { from, to: to === '-' ? '' : to }] });
  };
  return (
    <table>
      <tbody>
        {rows.map(({ from, label }) => {
          const to = pairs.find((pair) => pair.from === from)?.to;
          return (
            <tr key={from}>
              <td className="max-w-[180px] truncate py-0.5 pr-3" title={from}>
                {label}
              </td>
              <td className="py-0.5">
                <select
                  aria-label={`${label} becomes`}
                  className={`${BOX} ${to === undefined ? 'border-saffron text-saffron' : ''}`}
                  value={to === undefined ? '?' : to === '' ? '-' : to}
                  onChange={({ target }) => set(from, target.value)}
                >
                  <option value="?">not paired</option>
                  <option value="-">left out on purpose</option>
                  {(field?.options ?? []).map((option) => (
                    <option key={option.value} value={option.value}>
                      {option.label}
                    </option>
                  ))}
                </select>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
