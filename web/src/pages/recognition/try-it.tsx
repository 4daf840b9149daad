import type { Entity } from '@zusammen/core/schema';
import type { Recognition } from '@zusammen/core/recognition';
import { useState } from 'react';
import { call } from '../../api/client.ts';
import { useDo } from '../../api/hooks.ts';
import { Button } from '../../parts/button.tsx';
import { Outgoing, Tag } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { Dialog } from '../../parts/dialog.tsx';
import { Differing } from '../../parts/difference.tsx';
import { Bits, evidenceAt, VerdictTag } from '../../parts/evidence.tsx';
import { TD, TH } from '../../parts/sheet.tsx';

/** A typed-in record weighed against the known ones, as a submission would be; nothing is written. */
export function TryIt({
  system,
  entity,
  recognition,
  close,
}: {
  system: string;
  entity: Entity;
  recognition: Recognition;
  close: () => void;
}) {
  const [values, setValues] = useState<Record<string, string>>({});
  const ask = useDo(
    () =>
      call('post /systems/:id/entities/:entity/recognition/try', {
        params: { id: system, entity: entity.name },
        body: { values },
      }),
    [],
  );
  const labelOf = (name: string): string => entity.fields.find((field) => field.name === name)?.label ?? name;
  const told = ask.data;
  return (
    <Dialog open close={close} title={`Who would this ${entity.label.toLowerCase()} be?`} width={940}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          ask.mutate(undefined);
        }}
      >
        <div className="max-h-[60vh] overflow-auto" tabIndex={0} aria-label="Values and candidates">
          <table className="w-full table-fixed">
            <thead>
              <tr>
                <th className={cx(TH, 'w-[16%]')}>Field</th>
                <th className={cx(TH, 'w-[26%]')}>Typed in</th>
                {told?.weighed.slice(0, 3).map(({ record, weight, verdict }) => (
                  <th key={record} className={TH}>
                    <span className="flex items-center gap-1.5">
                      <Outgoing>{record}</Outgoing> <VerdictTag verdict={verdict} weight={weight} />
                    </span>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {recognition.parts.map(({ field }) => (
                <tr key={field}>
                  <td className={cx(TD, 'truncate')}>{labelOf(field)}</td>
                  <td className={TD}>
                    <input
                      aria-label={labelOf(field)}
                      value={values[field] ?? ''}
                      maxLength={1000}
                      onChange={({ target }) => setValues((held) => ({ ...held, [field]: target.value }))}
                      className="h-[30px] w-full rounded-[6px] border border-line bg-sheet px-2 font-mono text-[13px]"
                    />
                    {told?.ignored.includes(field) && (
                      <span className="text-small text-saffron">◆ says nothing: only fills the field</span>
                    )}
                  </td>
                  {told?.weighed.slice(0, 3).map(({ record, evidence }) => {
                    const found = evidenceAt(field, recognition, evidence);
                    return (
                      <td key={record} className={cx(TD, 'align-top')}>
                        <span className="flex items-start justify-between gap-2">
                          <Differing
                            value={told.records.find(({ id }) => id === record)?.values[field]}
                            other={values[field]}
                          />
                          {found && <Bits bits={found.bits} title={found.level} />}
                        </span>
                      </td>
                    );
                  })}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <footer className="mt-3 flex items-center gap-3">
          <Button
            type="submit"
            look="strong"
            busy={ask.isPending}
            disabled={!Object.values(values).some((text) => text.trim())}
          >
            Weigh it
          </Button>
          {told &&
            (told.verdict === 'different' ? (
              <Tag>○ nobody known comes near it</Tag>
            ) : (
              <span className="text-soft">
                A submission with these values would{' '}
                {told.verdict === 'same'
                  ? `be taken for ${told.records[0]?.id ?? 'the first'}`
                  : 'be asked about in Review'}
                .
              </span>
            ))}
          {ask.error && (
            <p role="alert" className="text-brick">
              {ask.error.message}
            </p>
          )}
        </footer>
      </form>
    </Dialog>
  );
}
