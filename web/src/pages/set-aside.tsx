import { useState } from 'react';
import { call } from '../api/client.ts';
import { useDo } from '../api/hooks.ts';
import { Button } from '../parts/button.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { TextField } from '../parts/form.tsx';

/** Asks for the reason with which a submission is set aside. */
export function SetAside({ id, close }: { id: string; close: () => void }) {
  const [reason, setReason] = useState('');
  const setAside = useDo(
    () => call('post /submissions/:id/set-aside', { params: { id }, body: { reason } }),
    ['submission', 'submissions', 'today'],
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
