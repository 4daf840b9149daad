import 'reflect-metadata';
import { plainToInstance } from 'class-transformer';
import { validateSync, type ValidationError } from 'class-validator';

/** What is wrong with one place of a document: its path (`plan.steps.0.entity`) and the reason in words. */
export interface Complaint {
  field: string;
  reason: string;
}

export type Validated<T> = { ok: true; value: T } | { ok: false; complaints: Complaint[] };

/**
 * Reads a plain JSON value as a document class; properties the class doesn't know are complained about.
 * @throws nothing; every defect comes back as a complaint
 */
export function validated<T extends object>(type: new () => T, plain: unknown): Validated<T> {
  if (typeof plain !== 'object' || plain === null || Array.isArray(plain)) {
    return { ok: false, complaints: [{ field: '', reason: 'must be an object' }] };
  }
  const value = plainToInstance(type, plain);
  const errors = validateSync(value, { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: true });
  return errors.length === 0 ? { ok: true, value } : { ok: false, complaints: errors.flatMap((each) => flatten(each)) };
}

function flatten(error: ValidationError, path = ''): Complaint[] {
  const field = path ? `${path}.${error.property}` : error.property;
  const own = Object.values(error.constraints ?? {}).map((reason) => ({ field, reason }));
  return [...own, ...(error.children ?? []).flatMap((child) => flatten(child, field))];
}
