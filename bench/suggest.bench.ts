import { jaroWinkler, suggestLines, type TargetEntity } from '@zusammen/core/mapping';
import type { Result } from '../scripts/bench.ts';
import { FORMS, type LabelledForm } from './labelled-forms.ts';

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
};

/** How right suggested lines are on labelled forms, beside exact names as the yardstick; and how fast they are computed. */
export async function bench(): Promise<Result[]> {
  let set = 0;
  let setRight = 0;
  let found = 0;
  let truths = 0;
  let byName = 0;
  const wrong: string[] = [];
  for (const { fields, targets, language } of FORMS) {
    const entities = TARGETS[targets];
    const truth = new Map(fields.map(({ name, truth: to }) => [name, to]));
    truths += fields.filter(({ truth: to }) => to !== '-').length;
    byName += fields.filter(({ name, truth: to }) => to !== '-' && to.split('.')[1] === name).length;
    for (const line of suggestLines(fields, entities)) {
      const right = line.from.length === 1 && truth.get(line.from[0]!) === `${line.entity}.${line.field}`;
      if (right) found += 1;
      if (line.standing === 'set') {
        set += 1;
        if (right) setRight += 1;
        else
          wrong.push(
            `${language} ${line.from.join('+')} → ${line.entity}.${line.field} ${line.confidence} (${line.reasons.join('; ')})`,
          );
      }
    }
    const lines = suggestLines(fields, entities);
    for (const { name, truth: to } of fields) {
      if (to !== '-' && !lines.some((line) => line.from.includes(name) && `${line.entity}.${line.field}` === to))
        wrong.push(`${language} ${name} has no line to ${to}`);
    }
  }
  for (const each of wrong) console.log(`  ${each}`);
  const speed = measureSpeed();
  return [
    {
      what: `precision of set lines (${FORMS.length} forms)`,
      unit: 'share',
      yardstick: 1,
      ours: setRight / set,
      ratio: setRight / set,
      aim: '≥ 0.98',
      notes: `${setRight} of ${set}`,
    },
    {
      what: 'recall of set and offered',
      unit: 'share; yardstick: equal names',
      yardstick: byName / truths,
      ours: found / truths,
      ratio: found / byName,
      aim: '≥ 0.92',
      notes: `${found} of ${truths}`,
    },
    speed,
  ];
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
