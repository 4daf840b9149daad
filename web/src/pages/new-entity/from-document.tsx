import type { ReadDefinitionTold, System } from '@zusammen/core/api';
import type { ComparedEntity, ComparedField } from '@zusammen/core/definitions';
import { fieldInWords, fixedOnceMade } from '@zusammen/core/schema-changes';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { ApiProblem, call } from '../../api/client.ts';
import { useDo, useMe } from '../../api/hooks.ts';
import { useAbilities } from '../../api/schema.ts';
import { Button } from '../../parts/button.tsx';
import { Outgoing, Tag } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { FileInput } from '../../parts/file-input.tsx';
import { plural } from '../../parts/plural.ts';
import { TD, TH } from '../../parts/sheet.tsx';

/** Larger than any definition a person has written. */
const LARGEST = 4 * 1024 * 1024;

/** Entities out of a definition document, or a JSON Schema: read, compared with what is there, and made. */
export function FromDocument({ system }: { system: System }) {
  const [text, setText] = useState('');
  const [called, setCalled] = useState<string>();
  const [problem, setProblem] = useState<ApiProblem | string>();
  const read = useDo(async (plain: Record<string, unknown>) => {
    const body = { document: plain, ...(called === undefined ? {} : { called }) };
    return call('post /schema/:system/definitions/read', { params: { system: system.id }, body });
  }, []);
  const look = (): void => {
    setProblem(undefined);
    let plain: unknown;
    try {
      plain = JSON.parse(text);
    } catch (error) {
      return setProblem(`This is no JSON: ${(error as Error).message}`);
    }
    if (typeof plain !== 'object' || plain === null || Array.isArray(plain))
      return setProblem('A definition is an object.');
    read.mutate(plain as Record<string, unknown>, { onError: setProblem });
  };
  const take = async (file: File): Promise<void> => {
    if (file.size > LARGEST) return setProblem('The file is larger than 4 MB.');
    setCalled(file.name.replace(/(?:\.schema)?\.json$/i, '').slice(0, 80));
    setText(await file.text());
  };
  return (
    <div className="border-t border-hair">
      <div className="space-y-2 px-4 py-3">
        <label htmlFor="definition" className="block text-small font-semibold">
          A definition document, or a JSON Schema of an object
        </label>
        <textarea
          id="definition"
          value={text}
          rows={read.data ? 8 : 16}
          spellCheck={false}
          onChange={({ target }) => {
            setText(target.value);
            read.reset();
          }}
          className="w-full rounded-[7px] border border-line bg-sheet p-3 font-mono text-[13px]"
        />
        <div className="flex flex-wrap items-center gap-3">
          <Button disabled={text.trim() === ''} busy={read.isPending} onClick={look}>
            Read it
          </Button>
          <FileInput label="A definition" accept=".json,application/json" choose={(file) => void take(file)} />
          <a className="text-small text-plum hover:underline" href="/api/schemas.json">
            its JSON Schema is published, under DefinitionDocument
          </a>
        </div>
        {problem !== undefined && <Complaints problem={problem} />}
      </div>
      {read.data && <Read system={system} told={read.data} />}
    </div>
  );
}

function Complaints({ problem }: { problem: ApiProblem | string }) {
  const errors = problem instanceof ApiProblem ? problem.errors : [];
  return (
    <div role="alert" className="rounded-[8px] bg-brick-wash px-4 py-3">
      {errors.length === 0 ? (
        <p>{problem instanceof ApiProblem ? problem.message : problem}</p>
      ) : (
        <ul className="space-y-1">
          {errors.slice(0, 20).map(({ field, reason }, at) => (
            <li key={at}>
              <code className="font-mono text-[13px] font-semibold">{field || 'the document'}</code> {reason}
            </li>
          ))}
          {errors.length > 20 && <li>and {errors.length - 20} more</li>}
        </ul>
      )}
    </div>
  );
}

/** What was read, beside what is there; what isn't there yet can be made. */
function Read({ system, told }: { system: System; told: ReadDefinitionTold }) {
  const navigate = useNavigate();
  const me = useMe();
  const abilities = useAbilities(system.id);
  const fresh = told.compared.filter(({ entity }) => entity === undefined).map(({ wanted }) => wanted);
  const make = useDo(
    async () =>
      call('post /schema/:system/entities', {
        params: { system: system.id },
        body: { format: told.document.format, entities: fresh },
      }),
    ['schema changes', 'systems'],
  );
  const may = me.data !== undefined && me.data.role !== 'viewer' && abilities.data?.entities === true;
  return (
    <>
      {told.left.length > 0 && (
        <ul
          aria-label="What could not be taken along"
          className="border-t border-hair px-4 py-2 text-small text-saffron"
        >
          {told.left.map((words) => (
            <li key={words}>◆ {words}</li>
          ))}
        </ul>
      )}
      {told.compared.map((compared) => (
        <Compared key={compared.wanted.name} system={system} compared={compared} />
      ))}
      {fresh.length > 0 && (
        <div className="flex flex-wrap items-center gap-4 border-t border-hair bg-saffron-wash px-4 py-3">
          <p className="min-w-0 flex-1">
            <strong className="text-saffron">Can’t be changed once it is made:</strong>{' '}
            {fresh.map((entity) => {
              const { entity: name, unique } = fixedOnceMade(entity);
              return (
                <span key={name}>
                  the name <code className="font-mono font-semibold">{name}</code>
                  {unique.length > 0 && `, that ${unique.join(', ')} ${unique.length === 1 ? 'is' : 'are'} unique`};{' '}
                </span>
              );
            })}
            the names of fields, and the kind of each.
          </p>
          <Button
            look="strong"
            busy={make.isPending}
            disabled={!may}
            onClick={() =>
              make.mutate(undefined, { onSuccess: ({ change }) => void navigate(`/schema/changes/${change}`) })
            }
          >
            Make {fresh.length === 1 ? fresh[0]!.label : plural(fresh.length, 'entity', 'entities')}
          </Button>
          {abilities.data && !abilities.data.entities && (
            <p className="w-full text-saffron">
              ◆ {system.name} doesn’t let this connection make entities: have it made there, and read the schema again.
            </p>
          )}
          {make.error && (
            <div className="w-full">
              <Complaints problem={make.error} />
            </div>
          )}
        </div>
      )}
    </>
  );
}

function Compared({ system, compared }: { system: System; compared: ComparedEntity }) {
  const { wanted, entity, fields, more } = compared;
  const same = fields.filter(({ stands }) => stands.how === 'same').length;
  return (
    <section className="border-t border-hair">
      <h3 className="flex flex-wrap items-center gap-2 px-4 py-2.5 font-semibold">
        {wanted.label}
        {entity === undefined ? (
          <Tag tone="plum">new in {system.name}</Tag>
        ) : (
          <>
            <Tag>is there already</Tag>
            <Link
              className="text-small font-normal text-plum hover:underline"
              to={`/schema?system=${system.id}&entity=${entity}`}
            >
              {same} of {plural(fields.length, 'field')} the same
            </Link>
          </>
        )}
      </h3>
      <table className="w-full table-fixed">
        <thead>
          <tr>
            <th className={cx(TH, 'w-[22%] pl-4')}>Field</th>
            <th className={cx(TH, 'w-[34%]')}>As the document says</th>
            <th className={TH}>In {system.name}</th>
          </tr>
        </thead>
        <tbody>
          {fields.map((field) => (
            <tr key={field.wanted.name}>
              <td className={cx(TD, 'truncate pl-4')}>
                <Outgoing>{field.wanted.label}</Outgoing>
              </td>
              <td className={cx(TD, 'text-small')}>{fieldInWords(field.wanted)}</td>
              <td className={cx(TD, 'text-small')}>
                <Stands field={field} isNew={entity === undefined} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {more.length > 0 && (
        <p className="border-t border-hair px-4 py-2 text-small text-soft">
          There, and not in the document: {more.slice(0, 12).join(', ')}
          {more.length > 12 && ` and ${more.length - 12} more`}
        </p>
      )}
    </section>
  );
}

function Stands({ field: { stands }, isNew }: { field: ComparedField; isNew: boolean }) {
  if (stands.how === 'same') return <span className="text-moss">● the same</span>;
  if (stands.how === 'missing')
    return isNew ? <span className="text-plum">+ will be made</span> : <span className="text-brick">✕ missing</span>;
  return (
    <span className="text-saffron">
      ◆ {stands.differences.join('; ')}
      {stands.lacks.length > 0 && (
        <span className="text-soft">
          {' '}
          (
          {stands.lacks
            .slice(0, 5)
            .map(({ label }) => label)
            .join(', ')}
          )
        </span>
      )}
    </span>
  );
}
