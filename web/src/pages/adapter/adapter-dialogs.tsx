import type { AdapterDetail } from '@zusammen/core/api';
import { Button } from '../../parts/button.tsx';
import { Dialog } from '../../parts/dialog.tsx';
import { Moment } from '../../parts/time.tsx';

/** On a real system nothing is written without being asked. */
export function AskBeforeWriting({
  name,
  close,
  go,
}: {
  name: string;
  close: () => void;
  go: (writes: boolean) => void;
}) {
  const begin = (writes: boolean): void => {
    close();
    go(writes);
  };
  return (
    <Dialog
      open
      close={close}
      title={`Try with ${name}?`}
      description="It is the real system. Reading changes nothing. Writing makes a record of our own of each entity that can be deleted, changes it, and removes it again."
    >
      <div className="flex justify-end gap-2">
        <Button onClick={close}>Not now</Button>
        <Button look="danger" onClick={() => begin(true)}>
          Try writing too
        </Button>
        <Button look="strong" onClick={() => begin(false)}>
          Try reading only
        </Button>
      </div>
    </Dialog>
  );
}

/** Earlier versions, to be taken up again. */
export function Versions({
  known,
  close,
  take,
}: {
  known: AdapterDetail;
  close: () => void;
  take?: (version: number) => Promise<void>;
}) {
  return (
    <Dialog
      open
      close={close}
      title="Versions"
      description="An earlier one is taken up as a change to the present one, and holds once it is saved."
    >
      <ul>
        {known.versions.map(({ version, at, by }) => (
          <li
            key={version}
            className="flex items-center justify-between gap-3 border-b border-hair py-2 last:border-b-0"
          >
            <span>
              <b className="font-semibold">Version {version}</b> by {by}, <Moment at={at} />
            </span>
            {version === known.version ? (
              <span className="text-small text-moss">● holds</span>
            ) : (
              take && (
                <Button
                  onClick={() => {
                    void take(version);
                    close();
                  }}
                >
                  Take it up
                </Button>
              )
            )}
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
