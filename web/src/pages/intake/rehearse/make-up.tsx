import { madeUp, type Personal, type SubmittedValues } from '@zusammen/core/forms';
import { personalKindOf } from '@zusammen/core/mapping';
import { useState } from 'react';
import { call } from '../../../api/client.ts';
import { useDo } from '../../../api/hooks.ts';
import { Button } from '../../../parts/button.tsx';
import { Incoming } from '../../../parts/chip.tsx';
import { Dialog } from '../../../parts/dialog.tsx';
import { TD } from '../../../parts/sheet.tsx';
import { ValueText } from '../../../parts/values.tsx';
import { useDraft } from '../draft.tsx';

/** Replaces personal values of the samples by made-up ones of the same shape; past submissions become such samples. */
export function MakeUp() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button look="quiet" onClick={() => setOpen(true)}>
        without people’s values
      </Button>
      {open && <Preview close={() => setOpen(false)} />}
    </>
  );
}

function Preview({ close }: { close: () => void }) {
  const { detail, document, samples } = useDraft();
  // Another seed each time: who knows one sample can't tell the others by it.
  const [seed] = useState(() => crypto.randomUUID());
  const personal = new Map<string, Personal>();
  for (const field of document.fields) {
    const kind = personalKindOf(field);
    if (kind !== undefined) personal.set(field.name, kind);
  }
  const labelOf = (name: string): string => document.fields.find((field) => field.name === name)?.label ?? name;
  const { id } = detail.intake;
  const replace = useDo(async () => {
    for (const sample of samples) {
      const values: SubmittedValues = madeUp(sample.values, personal, seed);
      await call('post /intakes/:id/samples', { params: { id }, body: { values } });
      if (sample.kept) await call('delete /intakes/:id/samples/:sample', { params: { id, sample: sample.id } });
    }
  }, ['intakes']);
  const first = samples[0]!;
  const made = madeUp(first.values, personal, seed);
  return (
    <Dialog
      open
      close={close}
      title="Samples without people’s values"
      description={`${samples.length} samples are kept with made-up values of the same shape in place of those about people. Kept samples are replaced; past submissions stay as they are.`}
      width={640}
    >
      <table className="w-full">
        <tbody>
          {[...personal.keys()].map((name) => (
            <tr key={name}>
              <td className={TD}>
                <Incoming>{labelOf(name)}</Incoming>
              </td>
              <td className={TD}>
                <ValueText value={first.values[name]} tone="text-soft" />
              </td>
              <td className={TD}>
                <ValueText value={made[name]} tone="font-bold" />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {personal.size === 0 && <p className="text-soft">None of the fields seems to hold values about people.</p>}
      {replace.error && (
        <p role="alert" className="mt-2 text-brick">
          {replace.error.message}
        </p>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={close}>Not now</Button>
        <Button
          look="strong"
          disabled={personal.size === 0}
          busy={replace.isPending}
          onClick={() => replace.mutate(undefined, { onSuccess: close })}
        >
          Keep {samples.length} made-up samples
        </Button>
      </div>
    </Dialog>
  );
}
