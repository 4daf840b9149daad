/** Figures a day as small bars; the last is today. */
export function Sparkline({ values, label }: { values: readonly number[]; label: string }) {
  const top = Math.max(1, ...values);
  return (
    <svg width={values.length * 7} height="22" role="img" aria-label={label}>
      {values.map((value, at) => {
        const height = value === 0 ? 1 : Math.max(2, Math.round((value / top) * 20));
        return (
          <rect
            key={at}
            x={at * 7}
            y={22 - height}
            width="5"
            height={height}
            className={at === values.length - 1 ? 'fill-moss' : 'fill-moss-pale'}
          />
        );
      })}
    </svg>
  );
}
