import { comesOutOtherwise } from '@zusammen/core/intake';
import type { Line, LineValue } from '@zusammen/core/mapping';
import type { Step } from '@zusammen/core/plans';
import type { Field } from '@zusammen/core/schema';
import { useMemo } from 'react';
import { plural } from '../../../parts/plural.ts';
import { ValueText } from '../../../parts/values.tsx';
import { useDraft } from '../draft.tsx';

/** What a changed line makes of the samples that the live version doesn't, by count and by example. */
export function OtherwiseThanLive({ step, line, field }: { step: Step; line: Line; field: Field }) {
  const { detail, document, samples } = useDraft();
  const { live } = detail;
  const found = useMemo(
    () =>
      live
        ? comesOutOtherwise(
            { live, draft: document },
            step,
            line,
            field,
            samples.map(({ values }) => values),
          )
        : undefined,
    [live, document, step, line, field, samples],
  );
  if (!found) return null;
  const noun = step.repeat === undefined ? 'sample' : 'row';
  const version = `version ${detail.intake.liveVersion}, which is live`;
  if (!found.example)
    return (
      <p className="text-small text-soft">
        {plural(found.of, `${noun} comes`, `${noun}s come`)} out as by {version}.
      </p>
    );
  return (
    <p className="text-small text-saffron">
      {found.differing} of {plural(found.of, noun)} {found.differing === 1 ? 'comes' : 'come'} out otherwise than by{' '}
      {version}: <Came value={found.example.live} /> → <Came value={found.example.draft} />
    </p>
  );
}

const Came = ({ value }: { value: LineValue }) =>
  value.problem === undefined ? <ValueText value={value.sent} /> : <span>refused, {value.problem}</span>;
