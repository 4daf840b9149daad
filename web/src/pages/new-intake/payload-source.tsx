import { readJsonSchema, readPayloads } from '@zusammen/core/forms';
import { useEffect, useState } from 'react';
import { nameFrom, type Brought } from './brought.ts';

type Kind = 'events' | 'program';

/** What a text brings: sample payloads, or a JSON Schema that defines them. */
function understood(text: string, kind: Kind): Brought | { problem: string } | undefined {
  if (text.trim() === '') return undefined;
  const source = { kind };
  const schema = asSchema(text);
  if (schema) {
    const read = readJsonSchema(schema);
    if (!read.ok) return { problem: `This is a JSON Schema, and: ${read.reason}` };
    return {
      name: nameFrom(read.name || (kind === 'events' ? 'New feed' : 'New form')),
      fields: read.fields,
      left: read.left.map((each) => ({
        name: each.split(':')[0]!,
        label: '',
        reason: each.split(': ')[1] ?? 'not understood',
      })),
      source,
      settings: {},
      samples: [],
      note: 'defined by a JSON Schema',
    };
  }
  const read = readPayloads(text);
  if (!read.ok) return { problem: read.reason };
  const said = read.samples.flatMap(({ type }) => (typeof type === 'string' ? type : []));
  const types = [...new Set(said.filter((type) => /^[\w-]+(\.[\w-]+)+$/.test(type)))];
  return {
    name: nameFrom(types[0]?.split('.')[0] ?? (kind === 'events' ? 'New feed' : 'New form')),
    fields: read.fields,
    left: [],
    source,
    settings: kind === 'events' && types.length > 0 ? { eventTypes: types } : {},
    samples: read.samples.slice(0, 50),
    note: `out of ${read.samples.length === 1 ? 'one payload; more tell what may be blank and which choices there are' : `${read.samples.length} payloads`}`,
  };
}

function asSchema(text: string): object | undefined {
  try {
    const parsed = JSON.parse(text) as Record<string, unknown> | null;
    const told =
      parsed !== null &&
      typeof parsed === 'object' &&
      ('$schema' in parsed || ('properties' in parsed && 'type' in parsed));
    return told ? parsed : undefined;
  } catch {
    return undefined;
  }
}

/** Sample payloads of a feed or a program, or the JSON Schema of them. */
export function PayloadSource({ kind, bring }: { kind: Kind; bring: (brought: Brought | undefined) => void }) {
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    const found = understood(text, kind);
    setProblem(found && 'problem' in found ? found.problem : undefined);
    bring(found && !('problem' in found) ? found : undefined);
  }, [text, kind, bring]);
  return (
    <div>
      <label htmlFor="payloads" className="mb-1 block text-small font-semibold">
        {kind === 'events' ? 'One or more events as they are sent' : 'One or more payloads as they are sent'}
      </label>
      <textarea
        id="payloads"
        autoFocus
        spellCheck={false}
        value={text}
        onChange={({ target }) => setText(target.value)}
        placeholder={
          kind === 'events'
            ? '{"type": "order.placed", "timestamp": "…", "data": {…}}'
            : '{"name": "…"}   or   name=…&email=…   or a JSON Schema'
        }
        className="h-[260px] w-full rounded-[7px] border border-line bg-sheet p-3 font-mono text-[12px]"
      />
      <p className="mt-1 text-small text-soft">
        JSON, form-encoded lines, or a JSON Schema (2020-12). Several samples tell kinds and choices better than one.
      </p>
      {problem && (
        <p role="alert" className="mt-2 text-brick">
          {problem}
        </p>
      )}
    </div>
  );
}
