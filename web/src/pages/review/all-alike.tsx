import { useAlike } from '../../api/hooks.ts';
import { Button } from '../../parts/button.tsx';
import { Dialog } from '../../parts/dialog.tsx';
import { ValueText } from '../../parts/values.tsx';

/** So many values tell who somebody is. */
const VALUES = 4;

/** One answer for all that wait for the same, given after they have been seen. */
export function AllAlike({
  submission,
  newOne,
  busy,
  decide,
  close,
}: {
  submission: string;
  newOne: string;
  busy: boolean;
  decide: () => void;
  close: () => void;
}) {
  const alike = useAlike(submission);
  const list = alike.data?.alike ?? [];
  const many = alike.data?.count ?? 0;
  return (
    <Dialog
      open
      close={close}
      title={many === 0 ? 'Alike' : `${many} wait for the same answer`}
      description={`Each becomes ${newOne}. Look through them first: what is somebody known has to be decided one by one.`}
      width={680}
    >
      {alike.error && (
        <p role="alert" className="text-brick">
          {alike.error.message}
        </p>
      )}
      <ul tabIndex={0} aria-label="All alike" className="max-h-[46vh] overflow-auto rounded-[8px] border border-hair">
        {list.map(({ id, label, values }) => (
          <li key={id} className="border-t border-hair px-3 py-1.5 first:border-t-0">
            <span className="font-semibold">{label || 'without a name'}</span>
            <span className="ml-3 text-small">
              {Object.values(values)
                .slice(0, VALUES)
                .map((value, at) => (
                  <span key={at} className="mr-3">
                    <ValueText value={value} tone="text-soft" />
                  </span>
                ))}
            </span>
          </li>
        ))}
        {many > list.length && <li className="px-3 py-1.5 text-small text-soft">and {many - list.length} more</li>}
      </ul>
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={close}>Not now</Button>
        <Button look="strong" autoFocus busy={busy} disabled={many === 0} onClick={decide}>
          All {many}: {newOne}
        </Button>
      </div>
    </Dialog>
  );
}
