import type { Criterion, Target } from '@zusammen/core/plans';
import { entityOf, type Entity, type RecordState } from '@zusammen/core/schema';
import { meaningsOf, tellingWords } from '@zusammen/core/mapping';
import type { Systems } from '../systems/index.ts';
import type { LiveView } from './live.ts';

/** So many records are told of one entity. */
const MOST = 6;

/**
 * Records of an entity that somebody may mean by a text: the one of this id, and those whose e-mail address, name or
 * number it is. The system is asked, with no regard to case where it can.
 */
export async function findRecords(
  { systems, live }: { systems: Pick<Systems, 'client'>; live: LiveView },
  { system, entity: name }: Target,
  text: string,
): Promise<RecordState[]> {
  const entity = entityOf((await live.allSchemas()).get(system) ?? { entities: [] }, name);
  if (!entity?.rights.read) return [];
  const client = await systems.client(system);
  const byId = /\s/.test(text) ? Promise.resolve(undefined) : client.read(entity, text).catch(() => undefined);
  const asked = criteriaFor(entity, text).map((criteria) => client.find(entity, criteria, MOST));
  const [one, ...found] = await Promise.all([byId, ...asked]);
  const records = [...(one ? [one] : []), ...(found as RecordState[][]).flat()];
  return [...new Map(records.map((record) => [record.id, record])).values()].slice(0, MOST);
}

/** What to ask for: each list of criteria is a question of its own. */
function criteriaFor(entity: Entity, text: string): Criterion[][] {
  const equal = (field: string, value: string): Criterion => ({ field, value, folded: true });
  const texts = entity.fields.filter(({ type, rights }) => rights !== 'none' && TEXTS.has(type));
  if (text.includes('@')) return texts.filter(({ type }) => type === 'email').map(({ name }) => [equal(name, text)]);
  const meant = (...wanted: string[]): string[] =>
    texts
      .filter(({ label, type }) => {
        const said = meaningsOf(tellingWords(label)).map(({ meaning }) => meaning as string);
        return type !== 'email' && wanted.some((each) => said.includes(each));
      })
      .map(({ name }) => name);
  const [first, ...rest] = text.split(/\s+/);
  const [given] = meant('given name');
  const [family] = meant('family name');
  const whole = meant('name', 'full name', 'family name', 'organisation', 'reference').slice(0, 3);
  const unique = texts.filter((field) => field.unique && field.type !== 'email').map(({ name }) => name);
  const questions = [...new Set([...whole, ...unique])].map((name) => [equal(name, text)]);
  if (given && family && first && rest.length > 0) questions.push([equal(given, first), equal(family, rest.join(' '))]);
  return questions;
}

const TEXTS = new Set(['text', 'email', 'phone']);
