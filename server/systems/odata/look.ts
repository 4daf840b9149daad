import { typedValue } from '@zusammen/core/asking';
import type { Comparison } from '@zusammen/core/forms/hosted';
import { fieldOf, type Entity, type Field } from '@zusammen/core/schema';
import type { Capabilities } from '../../store/index.ts';
import type { HttpResponse } from '../http.ts';
import type { Wanted } from '../look.ts';
import { SystemUnavailable } from '../system.ts';
import { literalOf } from './edm.ts';
import { pathOf } from './queries.ts';
import { keysOf } from './records.ts';

/**
 * A look for records as `$filter` (OASIS OData URL Conventions 4.01, 5.1.1).
 * @returns undefined where it can't be said, so that the records have to be looked through; null where none can meet it
 */
export function filterOf(
  entity: Entity,
  { where, text }: Pick<Wanted, 'where' | 'text'>,
  capabilities: Capabilities,
): string | null | undefined {
  if (capabilities.filter === false) return where.length === 0 && !text ? '' : undefined;
  const conditions: string[] = [];
  for (const comparison of where) {
    const condition = conditionFor(entity, comparison, capabilities);
    if (condition === undefined || condition === null) return condition;
    conditions.push(condition);
  }
  if (text) {
    const field = fieldOf(entity, text.field);
    if (!field || !isText(field)) return undefined;
    const folds = capabilities.folding !== false;
    const literal = literalOf(folds ? text.says.toLowerCase() : text.says, field);
    if (literal === undefined) return null;
    conditions.push(`contains(${folds ? `tolower(${text.field})` : text.field},${literal})`);
  }
  return conditions.join(' and ');
}

function conditionFor(
  entity: Entity,
  comparison: Comparison,
  { unsearchable = [] }: Capabilities,
): string | null | undefined {
  const { field: name, test } = comparison;
  const field = fieldOf(entity, name);
  // Several values in one field aren't compared by every system: those are looked through.
  if (!field || field.type === 'options' || unsearchable.includes(field.native ?? '')) return undefined;
  const path = field.linked && field.linkKey !== undefined ? `${name}/${field.linkKey}` : name;
  if (test === 'is blank') return isText(field) ? `(${path} eq null or ${path} eq '')` : `${path} eq null`;
  if (test === 'is not blank') return `${path} ne null`;
  const typed = typedValue(comparison, field);
  const literal = typed === undefined ? undefined : literalOf(typed, field);
  if (literal === undefined) return test === 'is not' ? `${path} ne null` : null;
  return `${path} ${{ is: 'eq', 'is not': 'ne', 'is more than': 'gt', 'is less than': 'lt' }[test]} ${literal}`;
}

const isText = ({ native, type }: Field): boolean =>
  native === undefined ? type === 'text' || type === 'email' : native === 'Edm.String';

/** Looks for records to be offered, and what came of asking: what a system stumbles over it isn't asked again. */
export class Looks {
  private readonly unanswerable = new Set<string>();

  constructor(
    private readonly capabilities: Capabilities,
    private readonly read: (path: string) => Promise<HttpResponse>,
  ) {}

  /**
   * @param expand the links that are to be seen
   * @returns the answer; `none` where no record can meet it; undefined where it can't be asked
   * @throws SystemTrouble
   */
  async ask(entity: Entity, look: Wanted, expand: string | undefined): Promise<HttpResponse | 'none' | undefined> {
    const { order, select } = this.capabilities;
    const parts = look.where.map(({ field, test }) => [field, test]);
    const question = JSON.stringify([entity.name, look.text?.field, parts]);
    const filter = filterOf(entity, look, this.capabilities);
    if (filter === null) return 'none';
    if (filter === undefined || this.unanswerable.has(question)) return undefined;
    if (look.order.length > 0 && order === false) return undefined;
    const own = look.fields.filter((name) => fieldOf(entity, name)?.linked !== true);
    const path = pathOf(entity.name, {
      $filter: filter === '' ? undefined : filter,
      $select: select === false ? undefined : [...new Set([...keysOf(entity), ...own])].join(','),
      $orderby: look.order.map(({ field, down }) => `${field}${down ? ' desc' : ''}`).join(',') || undefined,
      $top: String(look.limit),
      $expand: expand,
    });
    const response = await this.read(path).catch((error: unknown) => {
      // Some stumble over a question that others only decline; what is down doesn't tell more by being asked for all.
      if (error instanceof SystemUnavailable && error.status === 500) return undefined;
      throw error;
    });
    if (response && response.status !== 501 && response.status !== 400) return response;
    this.unanswerable.add(question);
    return undefined;
  }
}
