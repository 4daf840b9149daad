import { useState } from 'react';
import { call } from '../../../api/client.ts';
import { useDo } from '../../../api/hooks.ts';
import { Button } from '../../../parts/button.tsx';
import { Copy } from '../../../parts/copy.tsx';
import { SelectField, TextField } from '../../../parts/form.tsx';
import { Sheet } from '../../../parts/sheet.tsx';
import { Moment } from '../../../parts/time.tsx';

const DAYS = [1, 7, 14, 30, 90, 365];

/** Makes a signed link that opens the live form with a record: for whoever that record is about. */
export function MakeLink({ intake, label }: { intake: string; label: string }) {
  const [record, setRecord] = useState('');
  const [days, setDays] = useState(14);
  const [once, setOnce] = useState(true);
  const made = useDo(
    () => call('post /intakes/:id/links', { params: { id: intake }, body: { record: record.trim(), days, once } }),
    ['intakes'],
  );
  return (
    <Sheet title="Signed links">
      <form
        className="space-y-3 p-4"
        onSubmit={(event) => {
          event.preventDefault();
          made.mutate(undefined);
        }}
      >
        <TextField
          label={`Id of the ${label}`}
          required
          maxLength={255}
          value={record}
          error={made.error?.errors.find(({ field }) => field === 'record')?.reason}
          onChange={({ target }) => {
            made.reset();
            setRecord(target.value);
          }}
          help="Whoever has the link sees what the form begins with of this record, and changes it."
        />
        <SelectField label="Good for" value={days} onChange={({ target }) => setDays(Number(target.value))}>
          {DAYS.map((each) => (
            <option key={each} value={each}>
              {each === 1 ? 'one day' : `${each} days`}
            </option>
          ))}
        </SelectField>
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={once} onChange={({ target }) => setOnce(target.checked)} />
          Only one submission comes of it
        </label>
        {made.error && made.error.errors.length === 0 && (
          <p role="alert" className="text-brick">
            {made.error.message}
          </p>
        )}
        <Button type="submit" look="moss" busy={made.isPending}>
          Make a link
        </Button>
        {made.data && (
          <div className="space-y-1">
            <Copy label="The link" text={made.data.address} />
            <p className="text-small text-soft">
              Good until <Moment at={made.data.until} />. Signed by ES256; the keys are at{' '}
              <code className="font-mono">/.well-known/jwks.json</code>.
            </p>
          </div>
        )}
      </form>
    </Sheet>
  );
}
