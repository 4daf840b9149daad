/** Figures a day, or a minute, as small bars; the last is of now. @param pitch from one bar to the next, in pixels */
export function Sparkline({ values, label, pitch = 7 }: { values: readonly number[]; label: string; pitch?: number }) {
  const top = Math.max(1, ...values);
  return (
    <svg width={values.length * pitch} height="22" role="img" aria-label={label}>
      {values.map((value, at) => {
        const height = value === 0 ? 1 : Math.max(2, Math.round((value / top) * 20));
        return (
          <rect
            key={at}
            x={at * pitch}
            y={22 - height}
            width={pitch - 2}
            height={height}
            className={at === values.length - 1 ? 'fill-moss' : 'fill-moss-pale'}
          />
        );
      })}
    </svg>
  );
}
