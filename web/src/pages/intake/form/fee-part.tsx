import {
  amountOf,
  amountText,
  digitsOf,
  MOST_PRICE,
  say,
  type Charge,
  type Fee,
  type HostedForm,
  type Standing,
} from '@zusammen/core/forms/hosted';
import { useState } from 'react';
import { Link } from 'react-router';
import { useIntakes, usePaymentServices } from '../../../api/hooks.ts';
import { Button } from '../../../parts/button.tsx';
import { newId, type Editing } from './editing.tsx';
import { BOX, Part } from './part.tsx';
import { worded } from './wording.tsx';

/** What has to be paid with a form: to whom, and for what. */
export function FeePart({ editing, edited }: { editing: Editing; edited: boolean }) {
  const { fee } = editing.form;
  if (!fee && !edited) return null;
  return (
    <>
      {' '}
      Costs{' '}
      <Part label="What it costs" shown={fee ? feeInWords(fee, editing) : 'nothing'} edited={edited} wide>
        {() => <FeeBox editing={editing} />}
      </Part>
      .
    </>
  );
}

function feeInWords(fee: Fee, { form, language }: Editing): string {
  const [first, ...more] = fee.charges.map(({ label, by, minor }) => {
    const name = say(label, language, form.languages) || 'a fee';
    return by === 'fixed' ? `${name} (${amountText(minor ?? 0, fee.currency, 'en')})` : name;
  });
  return more.length === 0 ? first! : `${first} and ${more.length} more`;
}

function FeeBox({ editing }: { editing: Editing }) {
  const services = usePaymentServices();
  const intakes = useIntakes();
  const { form, language } = editing;
  const { fee } = form;
  const list = services.data ?? [];
  const set = (next: Fee | undefined): void =>
    editing.changeWhole(({ fee: _, ...rest }): HostedForm => (next ? { ...rest, fee: next } : rest));
  const begin = (): void =>
    set({
      ...{ service: list[0]!.id, currency: 'EUR' },
      charges: [{ id: newId(), label: { [language]: 'Fee' }, by: 'fixed', minor: 1000 }],
    });
  if (!fee)
    return (
      <div className="w-[320px] space-y-2 p-2">
        {list.length === 0 ? (
          <p className="text-small">
            No payment service is connected.{' '}
            <Link to="/systems" className="text-plum hover:underline">
              Systems
            </Link>{' '}
            has a place for one.
          </p>
        ) : (
          <Button onClick={begin}>Ask for a fee</Button>
        )}
        <p className="text-small text-soft">
          What is sent is kept at once, and carried out when it is paid. What it comes to is reckoned here, never in the
          page.
        </p>
      </div>
    );
  const change = (id: string, work: (charge: Charge) => Charge): void =>
    set({ ...fee, charges: fee.charges.map((each) => (each.id === id ? work(each) : each)) });
  return (
    <div className="w-[440px] max-w-full space-y-3 p-2">
      <div className="flex items-center gap-2">
        <select
          aria-label="Payment service"
          className={`${BOX} min-w-0 flex-1`}
          value={fee.service}
          onChange={({ target }) => set({ ...fee, service: target.value })}
        >
          {!list.some(({ id }) => id === fee.service) && <option value={fee.service}>one that isn’t there</option>}
          {list.map(({ id, name, test }) => (
            <option key={id} value={id}>
              {name}
              {test ? ' (test mode)' : ''}
            </option>
          ))}
        </select>
        <Currency fee={fee} set={set} />
      </div>
      {fee.charges.map((charge) => (
        <ChargeBox
          key={charge.id}
          charge={charge}
          editing={editing}
          currency={fee.currency}
          change={(work) => change(charge.id, work)}
          remove={() =>
            set(
              fee.charges.length === 1
                ? undefined
                : { ...fee, charges: fee.charges.filter(({ id }) => id !== charge.id) },
            )
          }
        />
      ))}
      <label className="flex items-center justify-between gap-2">
        <span className="text-small">When it is paid back, it is sent on to</span>
        <select
          className={`${BOX} max-w-[210px]`}
          value={fee.refunded ?? ''}
          onChange={({ target }) => {
            const { refunded: _, ...rest } = fee;
            set(target.value === '' ? rest : { ...rest, refunded: target.value });
          }}
        >
          <option value="">no intake</option>
          {(intakes.data ?? []).map(({ id, key, name }) => (
            <option key={id} value={key}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {fee.charges.length < 20 && (
        <Button
          onClick={() =>
            set({
              ...fee,
              charges: [...fee.charges, { id: newId(), label: { [language]: 'Fee' }, by: 'fixed', minor: 0 }],
            })
          }
        >
          One part more
        </Button>
      )}
    </div>
  );
}

function Currency({ fee, set }: { fee: Fee; set: (fee: Fee) => void }) {
  const [typed, setTyped] = useState(fee.currency);
  return (
    <input
      aria-label="Currency (ISO 4217)"
      className={`${BOX} w-[64px] uppercase`}
      maxLength={3}
      value={typed}
      onChange={({ target }) => {
        const currency = target.value.toUpperCase();
        setTyped(currency);
        if (/^[A-Z]{3}$/.test(currency)) set({ ...fee, currency });
      }}
    />
  );
}

/** Questions by which something is priced, with what can be chosen there. */
const optionsOf = ({ item }: Standing): { value: string; label: Record<string, string> }[] =>
  item.kind === 'yes/no'
    ? [
        { value: 'yes', label: { en: 'yes' } },
        { value: 'no', label: { en: 'no' } },
      ]
    : item.kind === 'consent'
      ? [{ value: 'yes', label: { en: 'yes' } }]
      : (item.options ?? []);

function ChargeBox({
  charge,
  editing,
  currency,
  change,
  remove,
}: {
  charge: Charge;
  editing: Editing;
  currency: string;
  change: (work: (charge: Charge) => Charge) => void;
  remove: () => void;
}) {
  const { form, language, standings } = editing;
  const labelOf = ({ item, name }: Standing): string => say(item.label, language, form.languages) || name;
  const priced = standings.filter((each) => optionsOf(each).length > 0);
  const given = standings.filter(({ item }) => item.kind === 'money' && item.currency === currency);
  const counted = standings.filter(
    ({ item }) =>
      item.kind === 'number' ||
      (item.kind === 'one of' &&
        (item.options ?? []).length > 0 &&
        item.options!.every(({ value }) => /^\d{1,6}$/.test(value))),
  );
  const by = charge.by === 'fixed' ? 'fixed' : `${charge.by} ${charge.question ?? ''}`;
  const asked = standings.find(({ name }) => name === charge.question);
  const priceBy = (value: string): void =>
    change(({ id, label, times, shown }) => {
      const kept = { id, label, ...(times === undefined ? {} : { times }), ...(shown ? { shown } : {}) };
      if (value === 'fixed') return { ...kept, by: 'fixed', minor: charge.minor ?? 0 };
      const [kind, question] = [value.slice(0, value.indexOf(' ')), value.slice(value.indexOf(' ') + 1)];
      return kind === 'answer'
        ? { ...kept, by: 'answer', question, least: 100 }
        : { ...kept, by: 'option', question, prices: [] };
    });
  return (
    <fieldset className="space-y-1.5 border-t border-hair pt-2">
      <legend className="sr-only">One part of what is to be paid</legend>
      <div className="flex items-center gap-2">
        <input
          aria-label="What it is for"
          className={`${BOX} min-w-0 flex-1`}
          maxLength={200}
          placeholder={say(charge.label, language, form.languages)}
          value={charge.label[language] ?? ''}
          onChange={({ target }) =>
            change((held) => ({ ...held, label: worded(held.label, language, target.value) ?? held.label }))
          }
        />
        <button
          type="button"
          className="min-h-6 text-small text-soft hover:text-brick hover:underline"
          onClick={remove}
        >
          leave out
        </button>
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <select
          aria-label="Priced by"
          className={`${BOX} max-w-[230px]`}
          value={by}
          onChange={({ target }) => priceBy(target.value)}
        >
          <option value="fixed">always</option>
          {priced.map((each) => (
            <option key={each.name} value={`option ${each.name}`}>
              by “{labelOf(each)}”
            </option>
          ))}
          {given.map((each) => (
            <option key={each.name} value={`answer ${each.name}`}>
              what is given as “{labelOf(each)}”
            </option>
          ))}
        </select>
        {charge.by === 'fixed' && (
          <Amount
            label="Price"
            minor={charge.minor ?? 0}
            currency={currency}
            set={(minor) => change((held) => ({ ...held, minor }))}
          />
        )}
        {charge.by === 'answer' && (
          <>
            <span className="text-small">at least</span>
            <Amount
              label="At least"
              minor={charge.least ?? 0}
              currency={currency}
              set={(least) => change((held) => ({ ...held, least }))}
            />
          </>
        )}
        <select
          aria-label="How many times"
          className={`${BOX} max-w-[190px]`}
          value={charge.times ?? ''}
          onChange={({ target }) =>
            change(({ times: _, ...held }) => (target.value === '' ? held : { ...held, times: target.value }))
          }
        >
          <option value="">once</option>
          {counted.map((each) => (
            <option key={each.name} value={each.name}>
              × “{labelOf(each)}”
            </option>
          ))}
        </select>
      </div>
      {charge.by === 'option' && asked && (
        <ul className="max-h-[220px] space-y-1 overflow-auto">
          {optionsOf(asked).map(({ value, label }) => (
            <li key={value} className="flex items-center justify-between gap-2">
              <span className="truncate text-small">{say(label, language, form.languages) || value}</span>
              <Amount
                label={`Price of ${say(label, language, form.languages) || value}`}
                minor={charge.prices?.find((price) => price.value === value)?.minor ?? 0}
                currency={currency}
                set={(minor) =>
                  change((held) => ({
                    ...held,
                    prices: [...(held.prices ?? []).filter((price) => price.value !== value), { value, minor }],
                  }))
                }
              />
            </li>
          ))}
        </ul>
      )}
    </fieldset>
  );
}

/** An amount, typed with a decimal point; kept in the smallest unit. */
function Amount({
  label,
  minor,
  currency,
  set,
}: {
  label: string;
  minor: number;
  currency: string;
  set: (minor: number) => void;
}) {
  const [typed, setTyped] = useState(amountOf(minor, currency));
  const digits = digitsOf(currency);
  const read = (text: string): number | undefined => {
    const match = /^(\d{1,9})(?:[.,](\d{0,3}))?$/.exec(text.trim());
    if (!match || (match[2] ?? '').length > digits) return undefined;
    const amount = Number(match[1]! + (match[2] ?? '').padEnd(digits, '0'));
    return amount <= MOST_PRICE ? amount : undefined;
  };
  const isWrong = read(typed) === undefined;
  return (
    <span className="flex items-center gap-1">
      <input
        aria-label={label}
        aria-invalid={isWrong}
        inputMode="decimal"
        className={`${BOX} w-[90px] text-right aria-invalid:border-brick`}
        value={typed}
        onChange={({ target }) => {
          setTyped(target.value);
          const amount = read(target.value);
          if (amount !== undefined) set(amount);
        }}
      />
      <span className="text-small text-soft">{currency}</span>
    </span>
  );
}
