import { Command } from 'cmdk';
import { useDeferredValue, useEffect, useRef, useState, type ReactNode } from 'react';

export interface Item {
  value: string;
  label: ReactNode;
  /** What typing is compared with. */
  words: string;
  note?: ReactNode;
  group?: string;
}

/** So many of a group are drawn; whoever looks for one of more types some letters. */
const MOST_SHOWN = 30;
/** So many fit in sight: they are drawn at once, the others right after. */
const FIRST_SHOWN = 10;
const NO_ITEMS: readonly Item[] = [];

/** A list that narrows while typing; arrows and Enter choose. */
export function Combobox({
  items = NO_ITEMS,
  placeholder,
  choose,
  loading = false,
  autoFocus = true,
}: {
  items?: readonly Item[] | undefined;
  placeholder: string;
  choose: (value: string) => void;
  /** The items aren't there yet; an Enter pressed meanwhile counts as soon as they are. */
  loading?: boolean;
  autoFocus?: boolean;
}) {
  const list = useRef<HTMLDivElement>(null);
  const waiting = useRef(false);
  useEffect(() => {
    if (loading || !waiting.current) return;
    waiting.current = false;
    // Only now do the items stand; what is marked among them is what the key was meant for.
    requestAnimationFrame(() => {
      list.current?.querySelector<HTMLElement>('[cmdk-item][data-selected="true"], [cmdk-item]')?.click();
    });
  }, [loading]);
  const [search, setSearch] = useState('');
  const low = search.toLowerCase();
  const matching = items.filter(({ words }) => words.toLowerCase().includes(low));
  // A list of hundreds that is drawn whole holds up the typing that would narrow it, and one of dozens its own opening.
  const most = useDeferredValue(MOST_SHOWN, FIRST_SHOWN);
  const groups = [...new Set(matching.map((item) => item.group ?? ''))];
  const shown = groups.flatMap((group) => matching.filter((item) => (item.group ?? '') === group).slice(0, most));
  return (
    <Command
      ref={list}
      label={placeholder}
      onKeyDown={({ key }) => {
        if (key === 'Enter' && loading) waiting.current = true;
      }}
      shouldFilter={false}
    >
      <Command.Input
        autoFocus={autoFocus}
        placeholder={placeholder}
        value={search}
        onValueChange={setSearch}
        className="mb-1 h-[34px] w-full rounded-[6px] border border-line bg-sheet px-3"
      />
      <Command.List className="max-h-[300px] overflow-auto">
        {loading ? (
          <p role="status" className="px-3 py-2 text-soft">
            Reading what the systems keep …
          </p>
        ) : (
          <Command.Empty className="px-3 py-2 text-soft">No matches</Command.Empty>
        )}
        {groups.map((group) => (
          <Command.Group
            key={group}
            heading={group || undefined}
            className="text-body [&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-small [&_[cmdk-group-heading]]:text-soft"
          >
            {shown
              .filter((item) => (item.group ?? '') === group)
              .map((item) => (
                <Command.Item
                  key={item.value}
                  value={item.value}
                  onSelect={() => choose(item.value)}
                  className="flex cursor-pointer items-center justify-between gap-3 rounded-[5px] px-3 py-1.5 data-[selected=true]:bg-moss-wash"
                >
                  <span className="min-w-0 truncate">{item.label}</span>
                  {item.note && <span className="shrink-0 text-small text-soft">{item.note}</span>}
                </Command.Item>
              ))}
          </Command.Group>
        ))}
        {most === MOST_SHOWN && matching.length > shown.length && (
          <p className="px-3 py-1.5 text-small text-soft">and {matching.length - shown.length} more; type to narrow</p>
        )}
      </Command.List>
    </Command>
  );
}
