/** The mark: two overlapping rounded squares. */
export function Mark() {
  return (
    <svg viewBox="0 0 26 18" width="25" height="17" aria-hidden="true">
      <rect x="0.5" y="1" width="16" height="16" rx="5" className="fill-plum" />
      <rect x="9.5" y="1" width="16" height="16" rx="5" className="fill-moss opacity-80" />
    </svg>
  );
}
