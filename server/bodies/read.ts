import * as bodies from '@zusammen/core/api';
import { validated, type Complaint } from '@zusammen/core/documents';
import { parseJson, UnreadableBody } from './json.ts';

/** What a request's body comes to. */
export type BodyRead =
  | { ok: true; value: object }
  | { ok: false; status: 400 | 422; detail: string; complaints: Complaint[] };

const CLASSES = new Map(
  Object.entries(bodies).filter((entry): entry is [string, new () => object] => typeof entry[1] === 'function'),
);

/**
 * Reads a JSON body as one of the classes of bodies, by the class's name, so that it can be done in another thread.
 * @throws nothing; what is wrong comes back in words
 */
export function readBody(bytes: Uint8Array, type: string): BodyRead {
  try {
    const result = validated(CLASSES.get(type)!, bytes.length === 0 ? undefined : parseJson(bytes));
    if (result.ok) return result;
    const [first] = result.complaints;
    const detail = first ? `${first.field || 'The body'}: ${first.reason}.` : 'The body is not acceptable.';
    return { ok: false, status: 422, detail, complaints: result.complaints.slice(0, 100) };
  } catch (error) {
    if (!(error instanceof UnreadableBody)) throw error;
    const { status, message, field, reason } = error;
    return { ok: false, status, detail: message, complaints: [{ field, reason }] };
  }
}
