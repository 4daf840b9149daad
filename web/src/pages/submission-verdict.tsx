import type { StepReport } from '@zusammen/core/plans';
import { Outgoing, Tag } from '../parts/chip.tsx';
import { Bits, bitsText } from '../parts/evidence.tsx';

/** What spoke for and against the likeliest. */
export function WeighedLine({ weighed }: { weighed: NonNullable<StepReport['weighed']> }) {
  const [best] = weighed;
  return (
    <p className="border-b border-hair px-4 py-1.5 text-small text-soft">
      <Outgoing>{best!.record}</Outgoing>{' '}
      {best!.evidence.map(({ about, level, bits }) => (
        <span key={about} className="mr-3 inline-block whitespace-nowrap">
          {about} {level} <Bits bits={bits} />
        </span>
      ))}
      {best!.why && <span className="text-saffron">◆ {best!.why}</span>}
    </p>
  );
}

export function Verdict({
  step,
  chosen,
  labelOf,
}: {
  step: StepReport;
  chosen: boolean;
  labelOf: (name: string) => string;
}) {
  if (step.verdict === 'one' && step.recognisedBy)
    return <Tag tone="moss">known, by {step.recognisedBy.map(labelOf).join(' and ')}</Tag>;
  if (step.verdict === 'one' && step.weighed?.[0] && !chosen)
    return (
      <Tag tone="moss">
        known, by evidence <span className="font-mono">{bitsText(step.weighed[0].weight)}</span>
      </Tag>
    );
  // Not by evidence: it can't be told whether a creation that was cut short took place.
  if (step.verdict === 'unsure' && !step.weighed) return <Tag tone="saffron">◆ may have been created already</Tag>;
  if (step.verdict === 'unsure')
    return (
      <Tag tone="saffron">
        ◆ unsure:{' '}
        {step.candidates?.length === 1 ? 'one comes near' : `${step.candidates?.length ?? 'several'} come near`}
      </Tag>
    );
  if (step.verdict === 'one') return <Tag tone="moss">{chosen ? 'chosen in Review' : 'known'}</Tag>;
  if (step.verdict === 'several') return <Tag tone="saffron">{step.candidates?.length ?? 'several'} fit</Tag>;
  if (step.verdict === 'none') return <Tag>none known</Tag>;
  return null;
}
