import {
  across,
  contradictions,
  placeName,
  readied,
  receivers,
  restlessRings,
  restlessness,
  SIDES,
  standing,
  undoneAndCarried,
  type Known,
  type LineOutcomes,
  type Pairing,
  type PairLine,
  type ReadyPairing,
  type Side,
  type Witness,
} from '../pairing/index.ts';
import { changedAtField, isWritable, mustBeGiven, type Schema, type Value } from '../schema/index.ts';
import { listed, quoted } from '../values/index.ts';
import type { FieldFamily } from '../one-field/index.ts';
import type { Abilities, Finding } from './finding.ts';
import { fieldNotPaired } from './one-field.ts';

/** What is known of a pairing besides its document. */
export interface PairingInput {
  id: string;
  pairing: Pairing;
  schemas: ReadonlyMap<string, Schema>;
  /** All others that are applied. */
  others: readonly Known[];
  /** What would happen over real pairs, by line; absent: nobody has looked. */
  outcomes?: readonly LineOutcomes[];
  /** What was found of lines that were tried with values already, by line. */
  tried?: ReadonlyMap<string, Witness | undefined>;
  /** Values in use, by line and side. */
  values?: ReadonlyMap<string, Record<Side, readonly Value[]>>;
  systemNames: Readonly<Record<string, string>>;
  /** Systems that may keep values about people. */
  personalSystems?: readonly string[];
  abilities?: Readonly<Record<string, Abilities>>;
  /** What was made one field in several places. */
  families?: readonly FieldFamily[];
  /** Whether somebody has said how records of a side are recognised. */
  recognised?: Readonly<Record<Side, boolean>>;
  /** By name, what pairings are called. */
  names: Readonly<Record<string, string>>;
}

interface ReadyInput extends PairingInput {
  ready: ReadyPairing;
}

type PairingCheck = (input: ReadyInput) => Finding[];

const CHECKS: PairingCheck[] = [
  nothingGoes,
  nothingWeighs,
  brokenLines,
  unreadableSides,
  optionsMissing,
  optionsGone,
  lossesOnTheWay,
  tooLongOrUnfit,
  neverRests,
  ringsWithOthers,
  contradictingOthers,
  undoneElsewhere,
  writtenTwice,
  requiredWhenMade,
  newestUntold,
  weakerSystems,
  ({ pairing, families = [], schemas }) => fieldNotPaired(pairing, families, schemas),
];

/** Runs all checks over a pairing; findings that stop it from being applied come first. */
export function checkPairing(input: PairingInput): Finding[] {
  const ready = readied(input.pairing, input.schemas);
  if (!ready) {
    const side = SIDES.find((each) => !entityThere(input, each))!;
    const { system, entity } = input.pairing[side];
    return [
      finding('K27', 'stops', `${entity} can’t be seen in ${input.systemNames[system] ?? 'its system'} any more.`),
    ];
  }
  const findings = CHECKS.flatMap((each) => each({ ...input, ready }));
  return findings.sort((a, b) => Number(a.severity === 'look') - Number(b.severity === 'look'));
}

const entityThere = ({ pairing, schemas }: PairingInput, side: Side): boolean =>
  schemas.get(pairing[side].system)?.entities.some(({ name }) => name === pairing[side].entity) === true;

const finding = (id: string, severity: Finding['severity'], sentence: string, line?: string): Finding => ({
  id,
  severity,
  place: line === undefined ? {} : { line },
  sentence,
});

const nameOn = ({ ready }: ReadyInput, line: PairLine, side: Side): string => placeName(line[side], ready.around[side]);
const systemOn = ({ pairing, systemNames }: ReadyInput, side: Side): string =>
  systemNames[pairing[side].system] ?? 'the system';
const pairsOf = (count: number): string => (count === 1 ? 'one pair' : `${count} pairs`);

/** K21: nothing says which record goes with which, or no field travels. */
function nothingGoes({ pairing, ready }: ReadyInput): Finding[] {
  const found: Finding[] = [];
  if (pairing.matches.length === 0 && pairing.weighed === undefined)
    found.push(finding('K21', 'stops', 'Nothing says which record goes with which.'));
  if (standing(pairing).length === 0)
    found.push(finding('K21', 'stops', 'No field is linked, so nothing would travel.'));
  const known = new Set(pairing.matches.flatMap(({ parts }) => parts.map((part) => JSON.stringify(part))));
  for (const { parts } of pairing.matches)
    for (const part of parts)
      for (const side of SIDES) {
        const name = part[side][0]!;
        const field = ready.around[side].entity.fields.find((each) => each.name === name);
        if ((!field || field.rights === 'none') && known.delete(JSON.stringify(part)))
          found.push(
            finding(
              'K27',
              'stops',
              `“${name}” of ${ready.around[side].entity.label}, by which records go together, can’t be seen.`,
            ),
          );
      }
  return found;
}

/** K08, K09, K27: a line can't be applied as its systems are now. */
function brokenLines({ ready }: ReadyInput): Finding[] {
  return ready.broken.map(({ line, why }) =>
    finding(/can't be written/.test(why) ? 'K08' : 'K27', 'stops', why.replace("can't", 'can’t'), line.id),
  );
}

/** K09: the connection may not change or make the records that the pairing writes. */
function unreadableSides(input: ReadyInput): Finding[] {
  const { pairing, ready } = input;
  return SIDES.flatMap((side) => {
    const { entity } = ready.around[side];
    const writes = ready.lines.some(({ line }) => receivers(line).includes(side));
    const makes = pairing.alone[across(side)].what === 'make';
    const system = systemOn(input, side);
    return [
      ...(writes && !entity.rights.update
        ? [finding('K09', 'stops', `The connection may not change ${entity.label} in ${system}.`)]
        : []),
      ...(makes && !entity.rights.create
        ? [finding('K09', 'stops', `The connection may not make ${entity.label} in ${system}.`)]
        : []),
      ...(pairing.gone[side] === 'delete' && !entity.rights.delete
        ? [finding('K09', 'stops', `The connection may not delete ${entity.label} in ${system}.`)]
        : []),
    ];
  });
}

/** K03: options are paired with some that a side's list no longer has. */
function optionsGone(input: ReadyInput): Finding[] {
  return input.ready.lines.flatMap(({ line, fields }) =>
    SIDES.flatMap((side): Finding[] => {
      const known = new Set(fields[side].options?.map(({ value }) => value));
      const gone = (line.options ?? []).map((pair) => pair[side]).filter((value) => !known.has(value));
      if (!fields[side].options || gone.length === 0) return [];
      const said = listed([...new Set(gone)], { quoted: true });
      const sentence = `${nameOn(input, line, side)} in ${systemOn(input, side)} doesn’t offer ${said} any more, and options are paired with it.`;
      return [finding('K03', 'look', sentence, line.id)];
    }),
  );
}

/** K02: options that have no counterpart on the other side. */
function optionsMissing(input: ReadyInput): Finding[] {
  return input.ready.lines.flatMap(({ line, fields, rule }) =>
    receivers(line).flatMap((to): Finding[] => {
      const from = across(to);
      if (!fields[to].options || !fields[from].options || line.collects) return [];
      const missing = fields[from].options.filter(({ value }) => {
        const carried = rule.carry[from](fields[from].type === 'options' ? [value] : value);
        return !carried.ok;
      });
      if (missing.length === 0) return [];
      const hit = hits(input, line, to);
      const labels = listed(
        missing.map(({ label }) => label),
        { quoted: true },
      );
      const lists = missing.length === 1 ? 'has no counterpart' : 'have no counterpart';
      const said = hit === 0 ? '' : ` ${pairsOf(hit)} can’t be brought into step because of it.`;
      return [
        finding(
          'K02',
          'look',
          `${labels} of ${nameOn(input, line, from)} ${lists} in ${systemOn(input, to)}.${said}`,
          line.id,
        ),
      ];
    }),
  );
}

const hits = ({ outcomes }: ReadyInput, line: PairLine, side: Side): number =>
  outcomes
    ?.find((each) => each.line === line.id)
    ?.stuck.filter((each) => each.side === side)
    .reduce((sum, each) => sum + each.count, 0) ?? 0;

/** K04: what values lose on the way. */
function lossesOnTheWay({ outcomes = [] }: ReadyInput): Finding[] {
  return outcomes.flatMap(({ line, lost }) =>
    lost.map(({ words, count }) => finding('K04', 'look', `${words}, in ${pairsOf(count)}.`, line)),
  );
}

/** K05, K07: values that don't go into the other side's field, apart from options. */
function tooLongOrUnfit(input: ReadyInput): Finding[] {
  return input.ready.lines.flatMap(({ line, fields }) => {
    const of = input.outcomes?.find((each) => each.line === line.id);
    return SIDES.flatMap((side): Finding[] => {
      const stuck = of?.stuck.filter((each) => each.side === side) ?? [];
      const count = stuck.reduce((sum, each) => sum + each.count, 0);
      if (count === 0 || (fields[side].options && fields[across(side)].options)) return [];
      const isLong = /takes \d+ (bytes|characters)/.test(stuck[0]!.words);
      return [
        finding(
          isLong ? 'K05' : 'K07',
          'look',
          `${stuck[0]!.words}: ${pairsOf(count)} can’t be brought into step.`,
          line.id,
        ),
      ];
    });
  });
}

const shown = (value: Value): string => `“${quoted(Array.isArray(value) ? value.join(', ') : String(value))}”`;

/** K19: a value that changes each time it goes there and back. */
function neverRests(input: ReadyInput): Finding[] {
  return input.ready.lines.flatMap((ready) => {
    const { id } = ready.line;
    const witness = input.tried?.has(id)
      ? input.tried.get(id)
      : restlessness(ready, input.values?.get(id) ?? { left: [], right: [] });
    if (!witness) return [];
    const to = across(witness.from);
    const sentence =
      `${nameOn(input, ready.line, witness.from)} never comes to rest: ${shown(witness.value)} is ${shown(witness.there)} in ` +
      `${systemOn(input, to)}, ${shown(witness.back)} when it comes back, and then ${shown(witness.again)} there.`;
    return [finding('K19', 'stops', sentence, ready.line.id)];
  });
}

/** K19: pairings in a ring around which a value never comes to rest. */
function ringsWithOthers(input: ReadyInput): Finding[] {
  const all = [...input.others, { id: input.id, pairing: input.pairing }];
  return restlessRings(all, input.schemas)
    .filter(({ way }) => way.some(({ pairing }) => pairing === input.id))
    .map(({ way, value, once, twice }) => {
      const through = [...new Set(way.map(({ pairing }) => input.names[pairing] ?? 'this pairing'))];
      const own = way.find(({ pairing }) => pairing === input.id)!;
      const sentence =
        `Together with ${listed(
          through.filter((name) => name !== input.pairing.name),
          { quoted: true },
        )} it goes round and round: ` + `${shown(value)} comes back as ${shown(once)}, and then as ${shown(twice)}.`;
      return finding('K19', 'stops', sentence, own.line);
    });
}

/** K20: another pairing writes the same field by another rule. */
function contradictingOthers(input: ReadyInput): Finding[] {
  const all = [...input.others, { id: input.id, pairing: input.pairing }];
  return contradictions(all, input.schemas)
    .filter(({ pairings }) => pairings.some(({ pairing }) => pairing === input.id))
    .map(({ node, pairings }) => {
      const own = pairings.find(({ pairing }) => pairing === input.id)!;
      const other = pairings.find(({ pairing }) => pairing !== input.id)!;
      const entity = input.schemas.get(node.system)?.entities.find(({ name }) => name === node.entity);
      const field = entity?.fields.find(({ name }) => name === node.field)?.label ?? node.field;
      return finding(
        'K20',
        'stops',
        `${field} of ${entity?.label ?? node.entity} is written by “${input.names[other.pairing] ?? 'another pairing'}” too: there ${other.rule}, here ${own.rule}.`,
        own.line,
      );
    });
}

/** K21: records are to be weighed, and nobody has said how. */
function nothingWeighs({ pairing, ready, recognised, ...input }: ReadyInput): Finding[] {
  const side = pairing.weighed;
  if (side === undefined || recognised?.[side] !== false) return [];
  const { label } = ready.around[side].entity;
  const where = systemOn({ ...input, pairing, ready }, side);
  return [
    finding('K21', 'stops', `Nobody has said how ${label} in ${where} is recognised, so nothing can be weighed.`),
  ];
}

/** K20: what is changed in a field is undone by one line, and carried on by another. */
function undoneElsewhere(input: ReadyInput): Finding[] {
  const all = [...input.others, { id: input.id, pairing: input.pairing }];
  return undoneAndCarried(all, input.schemas).flatMap(({ pairing, line, node, by }): Finding[] => {
    const own = pairing === input.id ? line : by.pairing === input.id ? by.line : undefined;
    if (own === undefined) return [];
    const entity = input.schemas.get(node.system)?.entities.find(({ name }) => name === node.entity);
    const field = entity?.fields.find(({ name }) => name === node.field)?.label ?? node.field;
    const named = (id: string): string => (id === input.id ? 'here' : `by “${input.names[id] ?? 'another pairing'}”`);
    const sentence =
      `What is changed in ${field} of ${entity?.label ?? node.entity} is undone ${named(pairing)}, since the other side decides, ` +
      `and carried on ${named(by.pairing)}: which comes first is chance.`;
    return [finding('K20', 'stops', sentence, own)];
  });
}

/** K20: two lines of the pairing write the same field, and one of them doesn't gather. */
function writtenTwice(input: ReadyInput): Finding[] {
  return SIDES.flatMap((side) => {
    const writers = input.ready.lines.filter(({ line }) => receivers(line).includes(side));
    return writers.flatMap(({ line, fields }, at): Finding[] => {
      const other = writers.slice(0, at).find((each) => each.line[side].path[0] === line[side].path[0]);
      if (!other || (line.collects && other.line.collects)) return [];
      return [finding('K20', 'stops', `${fields[side].label} is written by two lines.`, line.id)];
    });
  });
}

/** K01: a record to be made gets no value in a field its system insists on. */
function requiredWhenMade(input: ReadyInput): Finding[] {
  const { pairing, ready } = input;
  return SIDES.flatMap((side) => {
    if (pairing.alone[across(side)].what !== 'make') return [];
    const filled = new Set(
      ready.lines.filter(({ line }) => receivers(line).includes(side)).map(({ line }) => line[side].path[0]),
    );
    const missing = ready.around[side].entity.fields.filter(
      (field) => mustBeGiven(field) && isWritable(field) && !filled.has(field.name),
    );
    if (missing.length === 0) return [];
    const labels = listed(missing.map(({ label }) => label));
    return [
      finding(
        'K01',
        'stops',
        `${ready.around[side].entity.label} can’t be made in ${systemOn(input, side)} without ${labels}.`,
      ),
    ];
  });
}

/** K28: the newest change is to count, and a system doesn't tell when records were changed. */
function newestUntold(input: ReadyInput): Finding[] {
  const { ready } = input;
  const [side] = SIDES.filter((each) => !changedAtField(ready.around[each].entity));
  const lines = ready.lines.filter(({ line }) => line.way === 'both' && line.decides === 'newest');
  if (!side || lines.length === 0) return [];
  return [
    finding(
      'K28',
      'look',
      `${systemOn(input, side)} doesn’t tell when ${ready.around[side].entity.label} was changed, so where both have changed somebody is asked.`,
    ),
  ];
}

/** K28: what systems lack that keeping in step relies on. */
function weakerSystems(input: ReadyInput): Finding[] {
  const { ready, abilities = {} } = input;
  return SIDES.flatMap((side): Finding[] => {
    const writes = ready.lines.some(({ line }) => receivers(line).includes(side));
    const able = abilities[input.pairing[side].system];
    if (!writes || !able || able.etags) return [];
    return [
      finding(
        'K28',
        'look',
        `${systemOn(input, side)} keeps no versions of records: what somebody changes there in the moment of a write may be overwritten.`,
      ),
    ];
  });
}
