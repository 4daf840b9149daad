import { changePlan, changePlanStep, conversionOf, stepOn } from '@zusammen/core/intake';
import { type Step } from '@zusammen/core/plans';
import { useSearchParams } from 'react-router';
import { Sheet } from '../../../parts/sheet.tsx';
import { Empty, Skeleton } from '../../../parts/states.tsx';
import { useDraft } from '../draft.tsx';
import { Checks } from './checks.tsx';
import { EntityPicker } from './entity-picker.tsx';
import { Lines } from './lines.tsx';
import { Outcomes } from './outcomes.tsx';
import { Proposal } from './proposal.tsx';
import { StepSentence } from './sentence.tsx';
import { Steps } from './steps.tsx';
import { useSuggest } from './suggest.ts';

/** What a submission does: the steps on the left, one of them whole on the right. */
export function PlanStation() {
  const { document, change, mayEdit, systems, schemas, samples, standing } = useDraft();
  const [params, setParams] = useSearchParams();
  const { steps } = document.plan;
  const sample = Math.max(
    0,
    samples.findIndex(({ id }) => id === params.get('sample')),
  );
  const go = (changed: Record<string, string | undefined>): void =>
    setParams(
      (held) => {
        const next = new URLSearchParams(held);
        for (const [name, value] of Object.entries(changed))
          if (value === undefined) next.delete(name);
          else next.set(name, value);
        return next;
      },
      // At once: a key pressed right after choosing a step is meant for that step.
      { replace: true, flushSync: true },
    );
  const step = steps.find(({ id }) => id === params.get('step')) ?? steps[0];
  const entity = step && schemas.get(step.system)?.entities.find(({ name }) => name === step.entity);
  const system = step && systems.find(({ id }) => id === step.system);
  const edit = (work: (step: Step) => Step): void =>
    change((held) => (step ? changePlanStep(held, step.id, work) : held));
  return (
    <div className="grid grid-cols-[240px_minmax(0,1fr)] items-start gap-3.5 max-[900px]:grid-cols-1">
      <div className="space-y-3.5">
        <Steps chosen={step} choose={(id) => go({ step: id, line: undefined, show: undefined })} />
        <Checks />
      </div>
      {!step ? (
        <Sheet
          title={
            conversionOf(document)
              ? 'Which record does a converted one make or change?'
              : 'Which record does a submission make or change?'
          }
        >
          {mayEdit ? <FirstStep /> : <Empty title="This plan has no step yet" />}
        </Sheet>
      ) : (
        <Sheet>
          <StepSentence step={step} entity={entity} system={system} edit={edit} />
          <Outcomes step={step} edit={edit} />
          {entity ? (
            <Lines
              key={step.id}
              step={step}
              entity={entity}
              edit={edit}
              sample={sample}
              setSample={(at) => go({ sample: samples[at]?.id })}
            />
          ) : standing.read ? (
            <Empty title={`${step.entity} can’t be seen in the system`}>
              Read the system’s schema again, or choose another entity in the sentence above.
            </Empty>
          ) : (
            <div role="status" aria-label="Reading the schema">
              <Skeleton />
            </div>
          )}
        </Sheet>
      )}
    </div>
  );
}

/** The start of a plan: what the form speaks of is proposed whole; picking one entity by hand comes after. */
function FirstStep() {
  const { document, change, systems } = useDraft();
  const suggest = useSuggest();
  if (systems.length === 0) return <Empty title="No system is connected">Connect one under Systems first.</Empty>;
  const choose = async (chosen: string): Promise<void> => {
    const [system, name] = chosen.split(' ') as [string, string];
    const steps = await suggest.withStep([], stepOn(document, crypto.randomUUID().slice(0, 8), system, name));
    change((held) => changePlan(held, (plan) => ({ ...plan, steps })));
  };
  return (
    <>
      <Proposal />
      <div className="max-w-[560px] p-4">
        <p className="mb-1 text-small text-soft">Or begin with one entity</p>
        <EntityPicker autoFocus={false} choose={(value) => void choose(value)} />
      </div>
    </>
  );
}
