import { blankStep, type Step } from '@zusammen/core/plans';
import type { Entity } from '@zusammen/core/schema';
import type { System } from '@zusammen/core/api';
import { Tag } from '../../../parts/chip.tsx';
import { Editable } from '../../../parts/editable.tsx';
import { useDraft } from '../draft.tsx';
import { WhenDone } from './condition.tsx';
import { EntityPicker } from './entity-picker.tsx';
import { useSuggest } from './suggest.ts';
import { HowOften, WhichRecord } from './which-record.tsx';

/** "Look in Co-op CRM for a Person recognised by E-mail": each underlined part is edited where it stands. */
export function StepSentence({
  step,
  entity,
  system,
  edit,
}: {
  step: Step;
  entity: Entity | undefined;
  system: System | undefined;
  edit: (work: (step: Step) => Step) => void;
}) {
  const { document, mayEdit } = useDraft();
  const suggest = useSuggest();
  const { form, source } = document;
  const inPanel = form?.panel ? form.link?.system : source.panel && source.system;
  const actsInPanel = inPanel !== undefined && inPanel === step.system;
  const acting = form?.panel
    ? 'whoever is signed in on the page'
    : 'the connection, or whoever is signed in on its page';
  const another = async (chosen: string): Promise<void> => {
    const [systemId, name] = chosen.split(' ') as [string, string];
    if (systemId === step.system && name === step.entity) return;
    const others = document.plan.steps.filter(({ id }) => id !== step.id);
    const suggested = await suggest.withStep(others, blankStep(step.id, systemId, name));
    const next = suggested.find(({ id }) => id === step.id);
    if (next) edit(({ condition }) => (condition ? { ...next, condition } : next));
  };
  return (
    <p className="border-b border-hair px-4 py-3 text-[15px] leading-7">
      <WhenDone step={step} edit={edit} />
      <HowOften step={step} edit={edit} />
      look in <strong className="font-semibold">{system?.name ?? 'a system that is gone'}</strong>{' '}
      {system?.practice && <Tag>practice</Tag>} for {/^[aeiou]/i.test(entity?.label ?? '') ? 'an' : 'a'}{' '}
      <Editable label="Entity" wide disabled={!mayEdit} shown={entity?.label ?? step.entity}>
        {(close) => (
          <EntityPicker
            choose={(value) => {
              void another(value);
              close();
            }}
          />
        )}
      </Editable>{' '}
      <WhichRecord step={step} entity={entity} edit={edit} />, and write as{' '}
      <strong className="font-semibold">{actsInPanel ? acting : 'the connection'}</strong>.
    </p>
  );
}
