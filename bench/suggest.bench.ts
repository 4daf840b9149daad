import { jaroWinkler, suggestLines, type TargetEntity } from '@zusammen/core/mapping';
import type { Result } from '../scripts/bench.ts';
import { FORMS, HELD_OUT, type LabelledForm } from './labelled-forms.ts';

const field = (name: string, label: string, type = 'text') => ({ name, label, type });
const TARGETS: Record<LabelledForm['targets'], TargetEntity[]> = {
  coop: [
    {
      name: 'Organisations',
      label: 'Organisation',
      fields: [
        field('name', 'Name'),
        field('website', 'Website', 'web address'),
        field('customer_number', 'Customer number'),
        field('tax_number', 'Tax number'),
      ],
    },
    {
      name: 'People',
      label: 'Person',
      fields: [
        field('first_name', 'First name'),
        field('last_name', 'Family name'),
        field('email', 'E-mail', 'email'),
        field('phone', 'Phone', 'phone'),
        field('mobile', 'Mobile', 'phone'),
        field('birth_date', 'Birth date', 'date'),
        field('member_number', 'Member number'),
      ],
    },
    {
      name: 'Enquiries',
      label: 'Enquiry',
      fields: [
        field('subject', 'Subject'),
        field('message', 'Message', 'long text'),
        field('hives_wanted', 'Hives wanted', 'integer'),
        field('blossom_start', 'Blossom starts', 'date'),
      ],
    },
  ],
  plain: [
    {
      name: 'contact',
      label: 'Contact',
      fields: [
        field('given', 'Given name'),
        field('family', 'Family name'),
        field('mail', 'E-mail', 'email'),
        field('tel', 'Telephone', 'phone'),
        field('cell', 'Mobile phone', 'phone'),
        field('street', 'Street'),
        field('zip', 'Postcode'),
        field('town', 'City'),
        field('country', 'Country'),
        field('born', 'Date of birth', 'date'),
        field('notes', 'Notes', 'long text'),
        field('letters', 'Letters allowed', 'yes/no'),
      ],
    },
  ],
  shop: [
    {
      name: 'orders',
      label: 'Order',
      fields: [
        field('order_no', 'Order number'),
        field('total', 'Total', 'number'),
        { ...field('currency', 'Currency', 'option'), options: ['EUR', 'PLN', 'GBP'] },
        field('ship_name', 'Delivery name'),
        field('ship_street', 'Delivery street'),
        field('ship_zip', 'Delivery postcode'),
        field('ship_city', 'Delivery city'),
        field('bill_name', 'Billing name'),
        field('bill_street', 'Billing street'),
        field('bill_zip', 'Billing postcode'),
        field('bill_city', 'Billing city'),
        field('buyer_mail', 'Buyer e-mail', 'email'),
        field('placed', 'Placed at', 'date and time'),
        field('note', 'Note', 'long text'),
      ],
    },
  ],
  work: [
    {
      name: 'accounts',
      label: 'Company',
      fields: [
        field('company_name', 'Company name'),
        field('employees', 'Number of employees', 'integer'),
        { ...field('industry', 'Industry', 'option'), options: ['farming', 'retail', 'food'] },
        field('work_phone', 'Main phone', 'phone'),
        field('web', 'Website', 'web address'),
        field('street', 'Street'),
        field('postal', 'Postal code'),
        field('place', 'Place'),
      ],
    },
    {
      name: 'contacts',
      label: 'Contact person',
      fields: [
        { ...field('salutation', 'Salutation', 'option'), options: ['Ms', 'Mr'] },
        field('firstname', 'First name'),
        field('surname', 'Surname'),
        field('job', 'Job title'),
        field('direct_mail', 'E-mail', 'email'),
        field('direct_phone', 'Direct phone', 'phone'),
        field('mobile', 'Mobile', 'phone'),
        { ...field('language', 'Language', 'option'), options: ['en', 'de', 'pl'] },
      ],
    },
  ],
};

/** How right suggested lines are on labelled forms, beside exact names as the yardstick; and how fast they are computed. */
export async function bench(): Promise<Result[]> {
  return [
    ...quality(FORMS, `${FORMS.length} forms`),
    ...quality(HELD_OUT, `${HELD_OUT.length} held out`),
    measureSpeed(),
  ];
}

function quality(forms: readonly LabelledForm[], what: string): Result[] {
  let set = 0;
  let setRight = 0;
  let found = 0;
  let truths = 0;
  let byName = 0;
  const said: { confidence: number; right: boolean }[] = [];
  for (const { fields, targets, language } of forms) {
    const truth = new Map(fields.map(({ name, truth: to }) => [name, to]));
    truths += fields.filter(({ truth: to }) => to !== '-').length;
    byName += fields.filter(({ name, truth: to }) => to !== '-' && to.split('.')[1] === name).length;
    const lines = suggestLines(fields, TARGETS[targets]);
    for (const line of lines) {
      const to = `${line.entity}.${line.field}`;
      const right = line.from.length === 1 && truth.get(line.from[0]!) === to;
      said.push({ confidence: line.confidence, right });
      if (right) found += 1;
      if (line.standing !== 'set') continue;
      set += 1;
      if (right) setRight += 1;
      else
        console.log(
          `  ${language} wrongly set: ${line.from.join('+')} → ${to} ${line.confidence} (${line.reasons.join('; ')})`,
        );
    }
    for (const { name, label, truth: to } of fields) {
      if (to !== '-' && !lines.some((line) => line.from.includes(name) && `${line.entity}.${line.field}` === to))
        console.log(`  ${language} missing: ${name} “${label}” → ${to}`);
    }
  }
  return [
    {
      what: `precision of set lines (${what})`,
      unit: 'share',
      yardstick: 1,
      ours: setRight / set,
      ratio: setRight / set,
      aim: '≥ 0.98',
      notes: `${setRight} of ${set}`,
    },
    {
      what: `recall of set and offered (${what})`,
      unit: 'share; yardstick: equal names',
      yardstick: byName / truths,
      ours: found / truths,
      ratio: found / Math.max(1, byName),
      aim: '≥ 0.92',
      notes: `${found} of ${truths}`,
    },
    {
      what: `calibration error (${what})`,
      unit: 'mean |said − right|, ten bins; yardstick: always sure',
      yardstick: said.filter(({ right }) => !right).length / said.length,
      ours: calibrationError(said),
      ratio: calibrationError(said),
      aim: 'small',
      notes: '',
    },
  ];
}

/** Expected calibration error (Naeini, Cooper, Hauskrecht 2015): how far what is said is from how often it is right. */
function calibrationError(said: readonly { confidence: number; right: boolean }[]): number {
  let error = 0;
  for (let bin = 0; bin < 10; bin += 1) {
    const inBin = said.filter(({ confidence }) => Math.min(9, Math.floor(confidence * 10)) === bin);
    if (inBin.length === 0) continue;
    const mean = inBin.reduce((sum, { confidence }) => sum + confidence, 0) / inBin.length;
    const right = inBin.filter((each) => each.right).length / inBin.length;
    error += (Math.abs(mean - right) * inBin.length) / said.length;
  }
  return error;
}

function measureSpeed(): Result {
  const words = FORMS.flatMap(({ fields }) => fields.map(({ label }) => label)).filter(Boolean);
  const sources = Array.from({ length: 300 }, (_, at) => field(`f${at}`, `${words[at % words.length]!} ${at % 9}`));
  const targets = Array.from({ length: 600 }, (_, at) =>
    field(`t${at}`, `${words[(at * 7) % words.length]!} ${at % 11}`),
  );
  const time = (work: () => void): number => {
    work();
    const started = performance.now();
    for (let round = 0; round < 3; round += 1) work();
    return (performance.now() - started) / 3;
  };
  let sum = 0;
  const yardstick = time(() => {
    for (const source of sources) for (const target of targets) sum += jaroWinkler(source.label, target.label);
  });
  const ours = time(() => void (sum += suggestLines(sources, [{ name: 'e', label: 'E', fields: targets }]).length));
  return {
    what: 'suggest lines, 300 × 600 fields',
    unit: 'ms',
    yardstick,
    ours,
    ratio: ours / yardstick,
    aim: '≤ 3',
    notes: sum > 0 ? '' : 'nothing computed',
  };
}
