import { describeTreatment, type Treatment } from '@zusammen/core/mapping';
import { isWritable, type Field, type Schema } from '@zusammen/core/schema';
import type { ReactNode } from 'react';
import { Editable } from '../../../parts/editable.tsx';
import { ExpressionBox } from '../../../parts/expression-box.tsx';
import { Tag } from '../../../parts/chip.tsx';
import { COUNTRIES, LANGUAGES } from '../../../parts/places.ts';
import { useDraft } from '../draft.tsx';
import { OptionPairs } from './option-pairs.tsx';

const BOX = 'h-[30px] rounded-[6px] border border-line bg-sheet px-2';

interface Props {
  treatment: Treatment;
  field: Field | undefined;
  schema: Schema | undefined;
  sources: readonly { name: string; options?: readonly { value: string; label: string }[] }[];
  change: (treatment: Treatment) => void;
  remove: () => void;
}

/** One treatment as a chip; opened, its settings. */
export function TreatmentEditor({ treatment, field, schema, sources, change, remove }: Props) {
  const wide = ['options', 'compute', 'lookup'].includes(treatment.kind);
  return (
    <span className="inline-flex max-w-full items-center">
      <Editable
        label={`Settings of ${describeTreatment(treatment)}`}
        bare
        wide={wide}
        className="max-w-[280px] truncate"
        shown={<Tag>{describeTreatment(treatment)}</Tag>}
      >
        {() => (
          <div className="p-2">
            <Settings treatment={treatment} field={field} schema={schema} sources={sources} change={change} />
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

/** A setting that is one of a few; '' takes it away. */
function Pick<K extends keyof Treatment>({
  label,
  name,
  otherwise,
  options,
  treatment,
  change,
}: {
  label: string;
  name: K;
  /** What stands when nothing is set. */
  otherwise: string;
  options: readonly (readonly [value: string, shown: string])[];
  treatment: Treatment;
  change: Props['change'];
}) {
  return (
    <Setting label={label}>
      <select
        className={BOX}
        value={(treatment[name] as string | undefined) ?? otherwise}
        onChange={({ target }) => {
          const { [name]: _, ...rest } = treatment;
          change((target.value === '' ? rest : { ...rest, [name]: target.value }) as Treatment);
        }}
      >
        {options.map(([value, shown]) => (
          <option key={value} value={value}>
            {shown}
          </option>
        ))}
      </select>
    </Setting>
  );
}

function Words({
  label,
  name,
  treatment,
  change,
}: {
  label: string;
  name: 'find' | 'with' | 'value' | 'separator' | 'currency';
  treatment: Treatment;
  change: Props['change'];
}) {
  return (
    <Setting label={label}>
      <input
        className={BOX}
        value={treatment[name] ?? ''}
        onChange={({ target }) => {
          const { [name]: _, ...rest } = treatment;
          // A currency is set once it is one; the others may be any text, also none.
          const text = name === 'currency' ? target.value.toUpperCase().slice(0, 3) : target.value;
          change(name === 'currency' && text === '' ? rest : { ...rest, [name]: text });
        }}
      />
    </Setting>
  );
}

const DECIMALS = [
  ['', 'not known'],
  ['comma', 'comma: 12,5'],
  ['point', 'point: 12.5'],
] as const;
const AS = [['code', 'its code'], ...LANGUAGES.map(([code, name]) => [code, `its name in ${name}`] as const)] as const;

function Settings({ treatment, field, schema, sources, change }: Omit<Props, 'remove'>) {
  const { document } = useDraft();
  const both = { treatment, change };
  switch (treatment.kind) {
    case 'phone':
      return (
        <Pick
          {...both}
          label="Numbers without a country code are dialled from"
          name="country"
          otherwise=""
          options={[['', 'not known'], ...COUNTRIES.map(({ code, name }) => [code, name] as const)]}
        />
      );
    case 'join':
      return (
        <Pick
          {...both}
          label="Between the parts"
          name="separator"
          otherwise=" "
          options={[
            [' ', 'a space'],
            [', ', 'a comma'],
            ['-', 'a hyphen'],
            ['\n', 'a new line'],
          ]}
        />
      );
    case 'split':
      return (
        <>
          <Words {...both} label="Split at" name="separator" />
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
    case 'list':
      return (
        <Pick
          {...both}
          label="Of several"
          name="take"
          otherwise="each once"
          options={[
            ['first', 'the first'],
            ['last', 'the last'],
            ['count', 'how many there are'],
            ['each once', 'each once'],
          ]}
        />
      );
    case 'name part':
      return (
        <Pick
          {...both}
          label="Of the full name"
          name="take"
          otherwise="family"
          options={[
            ['given', 'the given name'],
            ['family', 'the family name'],
            ['title', 'the title'],
          ]}
        />
      );
    case 'address part':
      return (
        <Pick
          {...both}
          label="Of the address"
          name="take"
          otherwise="street"
          options={['street', 'number', 'street and number', 'more', 'postcode', 'city'].map(
            (part) =>
              [part, part === 'more' ? 'what follows the number' : part === 'number' ? 'house number' : part] as const,
          )}
        />
      );
    case 'case':
      return (
        <Pick
          {...both}
          label="Letters"
          name="case"
          otherwise="lower"
          options={[
            ['title', 'Capital first'],
            ['lower', 'small letters'],
            ['upper', 'CAPITALS'],
          ]}
        />
      );
    case 'replace':
      return (
        <>
          <Words {...both} label="This text" name="find" />
          <Words {...both} label="becomes" name="with" />
        </>
      );
    case 'shorten':
      return (
        <>
          <Setting label="At most">
            <input
              className={BOX}
              type="number"
              min={1}
              value={treatment.limit ?? 255}
              onChange={({ target }) =>
                change({ ...treatment, limit: Math.max(1, Math.round(Number(target.value)) || 1) })
              }
            />
          </Setting>
          <Pick
            {...both}
            label="counted in"
            name="unit"
            otherwise="characters"
            options={[
              ['characters', 'characters'],
              ['bytes', 'bytes (UTF-8)'],
            ]}
          />
        </>
      );
    case 'default':
      return <Words {...both} label="A blank becomes" name="value" />;
    case 'country':
    case 'language':
      return <Pick {...both} label="Goes in as" name="as" otherwise="code" options={AS} />;
    case 'number':
      return <Pick {...both} label="Visitors write decimals with a" name="decimal" otherwise="" options={DECIMALS} />;
    case 'money':
      return (
        <>
          <Pick
            {...both}
            label="Take"
            name="take"
            otherwise="amount"
            options={[
              ['amount', 'the amount'],
              ['currency', 'the currency'],
            ]}
          />
          <Words {...both} label="Only in this currency (blank takes any)" name="currency" />
          <Pick {...both} label="Visitors write decimals with a" name="decimal" otherwise="" options={DECIMALS} />
        </>
      );
    case 'date':
      return (
        <Pick
          {...both}
          label="Visitors write"
          name="order"
          otherwise=""
          options={[
            ['', 'not known'],
            ['day first', 'day first: 20.4.2027'],
            ['month first', 'month first: 4/20/2027'],
            ['year first', 'year first: 2027-04-20'],
          ]}
        />
      );
    case 'options':
      return <OptionPairs treatment={treatment} field={field} sources={sources} change={change} />;
    case 'lookup':
      return <LookupSettings treatment={treatment} schema={schema} change={change} />;
    case 'compute':
      return (
        <ExpressionBox
          label="Computed in CEL; fields are form.name, the value so far is value"
          value={treatment.expression ?? ''}
          fields={document.fields}
          change={(expression) => change({ ...treatment, expression })}
        />
      );
    default:
      return <p className="text-small text-soft">There is nothing to set.</p>;
  }
}

function LookupSettings({
  treatment,
  schema,
  change,
}: {
  treatment: Treatment;
  schema: Schema | undefined;
  change: Props['change'];
}) {
  const entities = schema?.entities ?? [];
  const fields = entities.find(({ name }) => name === treatment.entity)?.fields ?? [];
  const texts = fields.filter(
    (field) =>
      field.rights !== 'none' &&
      (isWritable(field) || field.type === 'text') &&
      !['options', 'long text', 'yes/no'].includes(field.type),
  );
  return (
    <>
      <Pick
        treatment={treatment}
        change={change}
        label="Look in"
        name="entity"
        otherwise=""
        options={[['', 'choose'], ...entities.map(({ name, label }) => [name, label] as const)]}
      />
      <Pick
        treatment={treatment}
        change={change}
        label="for the record whose"
        name="by"
        otherwise=""
        options={[['', 'choose'], ...texts.map(({ name, label }) => [name, `${label} is the value`] as const)]}
      />
      <Pick
        treatment={treatment}
        change={change}
        label="If there is none"
        name="missing"
        otherwise="refuse"
        options={[
          ['refuse', 'the submission fails and says so'],
          ['leave blank', 'the field is left blank'],
        ]}
      />
    </>
  );
}
