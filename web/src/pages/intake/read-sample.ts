import { collectValues, flattenPayload } from '@zusammen/core/forms';
import type { SubmittedValues } from '../../api/types.ts';

/** Reads what somebody pasted as a sample: JSON, form-encoded, or one `name=value` a line. */
export function readSample(text: string): { ok: true; values: SubmittedValues } | { ok: false; reason: string } {
  const bare = text.trim();
  if (bare.startsWith('{') || bare.startsWith('[')) {
    try {
      const flat = flattenPayload(JSON.parse(bare), { fields: 1000, depth: 8 });
      return flat.ok
        ? { ok: true, values: { ...flat.values } }
        : { ok: false, reason: `${flat.field || 'The payload'} ${flat.reason}.` };
    } catch (error) {
      return { ok: false, reason: `This is not valid JSON: ${(error as Error).message}.` };
    }
  }
  const parts = bare.split(/[&\n]/).filter((part) => part.trim() !== '');
  if (parts.some((part) => !part.includes('=')))
    return { ok: false, reason: `“${parts.find((part) => !part.includes('='))!.slice(0, 40)}” has no “=”.` };
  return {
    ok: true,
    values: { ...collectValues([...new URLSearchParams(parts.map((part) => part.trim()).join('&'))]) },
  };
}
