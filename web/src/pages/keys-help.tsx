import { Dialog } from '../parts/dialog.tsx';
import { Key } from '../parts/key.tsx';

const KEYS: [keys: string[], what: string][] = [
  [['J', 'K'], 'next and previous in a list; the arrows do the same'],
  [['Enter'], 'open or edit what is chosen'],
  [['Esc'], 'leave, keeping what was entered'],
  [['Ctrl K'], 'find or do anything'],
  [['R'], 'rehearse (on an intake)'],
  [['A', 'X'], 'accept or remove a line (in a plan)'],
  [['S'], 'suggest the rest (in a plan)'],
  [['[', ']'], 'previous and next sample (in a plan)'],
  [['Ctrl Z', 'Ctrl Y'], 'undo and redo (in a plan)'],
  [['Y', 'N', 'U'], 'the same, two, can’t tell (in Recognition)'],
  [['M', 'N'], 'merge a group, or keep it apart (in Doubles)'],
  [['1', '2', 'N'], 'decide: this record, that one, somebody new (in Review)'],
  [['?'], 'this list'],
];

export function KeysHelp({ open, close }: { open: boolean; close: () => void }) {
  return (
    <Dialog open={open} close={close} title="Keys">
      <dl className="grid grid-cols-[130px_1fr] gap-y-2">
        {KEYS.map(([keys, what]) => (
          <div key={what} className="contents">
            <dt className="flex gap-1">
              {keys.map((name) => (
                <Key key={name} name={name} />
              ))}
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}
