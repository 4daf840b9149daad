import { partsRead, type Evidence, type Recognition, type Verdict } from '@zusammen/core/recognition';
import { Tag, type Tone } from './chip.tsx';
import { cx } from './cx.ts';

/** Bits with their sign, as they are added up. */
export const bitsText = (bits: number): string =>
  `${bits < -0.05 ? '−' : bits > 0.05 ? '+' : ''}${Math.abs(bits).toFixed(1)}`;

/** What a piece of evidence weighs: moss for, brick against. */
export function Bits({ bits, title }: { bits: number | undefined; title?: string | undefined }) {
  if (bits === undefined) return <span className="font-mono text-[13px] text-soft">0.0</span>;
  return (
    <span
      title={title}
      className={cx(
        'font-mono text-[13px] whitespace-nowrap',
        bits > 0.05 ? 'text-moss' : bits < -0.05 ? 'text-brick' : 'text-soft',
      )}
    >
      {bitsText(bits)}
    </span>
  );
}

const VERDICTS: Record<Verdict, [word: string, tone: Tone]> = {
  same: ['● same', 'moss'],
  unsure: ['◆ unsure', 'saffron'],
  different: ['○ different', 'sand'],
};

export function VerdictTag({ verdict, weight }: { verdict: Verdict; weight?: number }) {
  const [word, tone] = VERDICTS[verdict];
  return (
    <Tag tone={tone}>
      {word}
      {weight !== undefined && <span className="font-mono">{bitsText(weight)}</span>}
    </Tag>
  );
}

/** The evidence that belongs beside a field. */
export function evidenceAt(
  field: string,
  { parts }: Pick<Recognition, 'parts'>,
  evidence: readonly Evidence[],
): Evidence | undefined {
  const part = parts.find((each) => each.field === field)?.part;
  return evidence.find(({ about }) => {
    const first = partsRead(about).find((each) => parts.some((other) => other.part === each));
    return first !== undefined && first === part;
  });
}

/** A field that was compared together with others, whose weight stands beside the first of them. */
export function countedElsewhere(
  field: string,
  { parts }: Pick<Recognition, 'parts'>,
  evidence: readonly Evidence[],
): boolean {
  const part = parts.find((each) => each.field === field)?.part;
  if (part === 'country') return true;
  return evidence.some(({ about }) => part !== undefined && partsRead(about).includes(part));
}

/** The name of what a comparison is about, by the label of the field that tells it. */
export function aboutLabel(
  about: string,
  { parts }: Pick<Recognition, 'parts'>,
  labelOf: (field: string) => string,
): string {
  if (about === 'name' || about === 'address') return about.charAt(0).toUpperCase() + about.slice(1);
  const first = partsRead(about)
    .map((part) => parts.find((each) => each.part === part))
    .find(Boolean);
  return first ? labelOf(first.field) : about.charAt(0).toUpperCase() + about.slice(1);
}
