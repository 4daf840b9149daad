import type { SchemaAbilities } from '@zusammen/core/api';
import { definitionOfSheet, takenColumns, type ReferenceSeen, type SheetEntity } from '@zusammen/core/new-entities';
import { fixedOnceMade } from '@zusammen/core/schema-changes';
import type { Entity } from '@zusammen/core/schema';
import { Outgoing } from '../../parts/chip.tsx';
import { Editable } from '../../parts/editable.tsx';
import { plural } from '../../parts/plural.ts';
import { Sheet } from '../../parts/sheet.tsx';
import { count } from '../../parts/time.tsx';

/** What can never be changed, in words, before the button. */
export function Fixed({ sheet }: { sheet: SheetEntity }) {
  const { entity, unique } = fixedOnceMade(definitionOfSheet(sheet).entities[0]!);
  return (
    <section className="sheet overflow-hidden border-saffron/40 bg-saffron-wash">
      <h2 className="border-b border-saffron/30 px-4 py-2.5 font-semibold text-saffron">
        Can’t be changed once it is made
      </h2>
      <p className="px-4 py-3">
        The entity’s name <code className="font-mono font-semibold">{entity}</code>, the fields’ names,{' '}
        {unique.length > 0 && (
          <>
            that <strong>{unique.join(', ')}</strong> {unique.length === 1 ? 'is' : 'are'} unique,{' '}
          </>
        )}
        and the kind of each field. Labels, more options, longer texts and what is required can.
      </p>
    </section>
  );
}

/** How much will be made, and how the rows will come in. */
export function Made({
  sheet,
  rows,
  references,
  entities,
  removing,
}: {
  sheet: SheetEntity;
  rows: number;
  references: ReadonlyMap<string, ReferenceSeen>;
  entities: readonly Entity[];
  removing: boolean;
}) {
  const columns = takenColumns(sheet);
  const lists = columns.filter(({ field }) => field.options).length;
  const relations = columns.flatMap(({ column, reference }) => {
    const entity = entities.find(({ name }) => name === reference?.entity);
    return entity ? [{ entity, seen: references.get(column) }] : [];
  });
  const unsure = relations.reduce((sum, { seen }) => sum + (seen?.unsure ?? 0), 0);
  const nobody = relations.reduce((sum, { seen }) => sum + (seen?.nobody ?? 0), 0);
  return (
    <Sheet title="What will be made">
      <p className="px-4 py-3">
        1 entity with {plural(columns.length, 'field')}
        {lists > 0 && `, ${plural(lists, 'list')} of options`}
        {relations.length > 0 && `, ${plural(relations.length, 'relation')} to `}
        {relations.map(({ entity }, at) => (
          <Outgoing key={at}>{entity.label}</Outgoing>
        ))}
      </p>
      {relations.length > 0 && (
        <p className="border-t border-hair px-4 py-3">
          <strong>{count(Math.max(0, rows - unsure - nobody))}</strong> rows whole,{' '}
          <strong className="text-saffron">{count(unsure)}</strong> to decide in Review,{' '}
          <strong className="text-brick">{count(nobody)}</strong> without the record they name
        </p>
      )}
      <p className="border-t border-hair px-4 py-3">
        Rows come in under the ledger and can be taken back together;{' '}
        {removing ? 'so can the entity, while nothing else uses it.' : 'the entity stays: the system removes none.'}
      </p>
    </Sheet>
  );
}

const named = (roles: readonly string[], all: readonly string[]): string => {
  if (roles.length === 0) return 'nobody';
  if (roles.length === all.length) return 'everybody';
  return roles.join(', ');
};

/** Who of the system's people reads and writes the records. */
export function WhoMay({
  sheet,
  abilities,
  system,
  change,
  disabled,
}: {
  sheet: SheetEntity;
  abilities: SchemaAbilities;
  system: string;
  change: (next: SheetEntity) => void;
  disabled: boolean;
}) {
  const { roles } = abilities;
  const fields = takenColumns(sheet).length;
  const { reads = roles, writes = roles } = sheet;
  return (
    <Sheet title="Who may">
      <p className="px-4 py-3 leading-7">
        {roles.length > 0 ? (
          <>
            <Roles
              label="Who reads and writes"
              roles={roles}
              chosen={writes}
              disabled={disabled}
              choose={(next) => change({ ...sheet, writes: next, reads: [...new Set([...reads, ...next])] })}
            />{' '}
            may write,{' '}
            <Roles
              label="Who reads"
              roles={roles}
              chosen={reads}
              disabled={disabled}
              choose={(next) => change({ ...sheet, reads: next, writes: writes.filter((each) => next.includes(each)) })}
            />{' '}
            read.{' '}
          </>
        ) : (
          <>{system} doesn’t say who else may see it; look there once it is made. </>
        )}
        This connection will see all {fields} fields.
      </p>
    </Sheet>
  );
}

function Roles({
  label,
  roles,
  chosen,
  choose,
  disabled,
}: {
  label: string;
  roles: readonly string[];
  chosen: readonly string[];
  choose: (next: string[]) => void;
  disabled: boolean;
}) {
  return (
    <Editable className="leading-[1.4]" label={label} shown={named(chosen, roles)} disabled={disabled}>
      {() => (
        <div className="space-y-1 p-2">
          {roles.map((role) => (
            <label key={role} className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={chosen.includes(role)}
                onChange={({ target }) =>
                  choose(target.checked ? [...chosen, role] : chosen.filter((each) => each !== role))
                }
              />
              {role}
            </label>
          ))}
        </div>
      )}
    </Editable>
  );
}
