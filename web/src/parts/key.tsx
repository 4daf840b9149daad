/** A small key beside an action. */
export function Key({ name }: { name: string }) {
  return (
    <kbd className="rounded-[4px] border border-line bg-sheet px-1.5 font-mono text-[11px] leading-[16px] font-normal text-soft">
      {name}
    </kbd>
  );
}
