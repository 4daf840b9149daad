import { useState } from 'react';
import { call } from '../api/client.ts';
import { useDo } from '../api/hooks.ts';
import { Button } from '../parts/button.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { TextField } from '../parts/form.tsx';

/** Asks for the reason with which a submission is set aside. */
export function SetAside({ id, many = 1, close }: { id: string; many?: number; close: () => void }) {
  const [reason, setReason] = useState('');
  const [alike, setAlike] = useState(false);
  const setAside = useDo(
    () => call('post /submissions/:id/set-aside', { params: { id }, body: { reason, ...(alike ? { alike } : {}) } }),
    ['submission', 'submissions', 'review', 'today'],
  );
  return (
    <Dialog
      open
      close={close}
      title="Set aside"
      description="It is kept with this reason and can be carried out again later."
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          setAside.mutate(undefined, { onSuccess: close });
        }}
      >
        <TextField
          label="Reason"
          autoFocus
          required
          minLength={3}
          maxLength={400}
          value={reason}
          onChange={({ target }) => setReason(target.value)}
          error={setAside.error?.message}
        />
        {many > 1 && (
          <label className="mt-3 flex items-center gap-2">
            <input type="checkbox" checked={alike} onChange={({ target }) => setAlike(target.checked)} />
            all {many} that wait for the same
          </label>
        )}
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={close}>Not now</Button>
          <Button type="submit" look="strong" busy={setAside.isPending} disabled={reason.trim().length < 3}>
            Set aside
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
