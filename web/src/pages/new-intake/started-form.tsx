import { standingsOf } from '@zusammen/core/forms/hosted';
import { planInWords } from '@zusammen/core/plans';
import { useQueries } from '@tanstack/react-query';
import { systemQuery, useSystems } from '../../api/hooks.ts';
import { cx } from '../../parts/cx.ts';
import { Empty } from '../../parts/states.tsx';
import { VisitorItem } from '../intake/form/visitor-item.tsx';
import type { Brought } from './brought.ts';

/** The form that would be made, as a visitor sees it, and the plan that goes with it here; nothing is made yet. */
export function StartedForm({ brought }: { brought: Brought }) {
  const { form, plan, started } = brought.ours!;
  const systems = useSystems().data ?? [];
  const written = [...new Set(plan.steps.map(({ system }) => system))];
  const details = useQueries({ queries: written.map((id) => systemQuery(id)) });
  const schemas = new Map(
    details.flatMap(({ data }) => (data?.schema ? [[data.system.id, data.schema] as const] : [])),
  );
  const names = new Map(systems.map(({ id, name }) => [id, name]));
  const language = form.languages[0]!;
  const items = standingsOf(form);
  if (items.length === 0)
    return (
      <Empty title="Nothing is asked yet">Make it, and tick the fields to ask for in the record they go to.</Empty>
    );
  return (
    <div
      tabIndex={0}
      aria-label="The form and its plan"
      className="grid max-h-[calc(100vh-210px)] grid-cols-2 gap-x-6 overflow-auto px-5 py-4 max-[1100px]:grid-cols-1"
    >
      <section aria-label="As a visitor sees it" className="space-y-3.5">
        {items.map(({ item, groups }) => (
          <div key={item.id} className={cx(groups.length > 0 && 'border-l border-dashed border-line pl-4')}>
            {item.kind === 'group' ? (
              <p className="font-semibold">
                {item.label[language]} <span className="text-small font-normal text-soft">once a row</span>
              </p>
            ) : (
              <VisitorItem item={item} form={form} language={language} />
            )}
          </div>
        ))}
      </section>
      <section aria-label="The plan" className="min-w-0 space-y-3">
        {started && <Found title="Needed, so asked for as well" what={started.added} />}
        {started && (
          <Found title="Needed, and nobody can be asked: a line has to fill it" what={started.missing} warns />
        )}
        {started && <Found title="Left out, since no system has a place for it" what={started.left} />}
        {plan.steps.length === 0 ? (
          <p className="text-soft">No record of a connected system goes with it yet.</p>
        ) : (
          <pre className="font-mono text-[12.5px] leading-[19px] whitespace-pre-wrap">
            {planInWords({ fields: brought.fields, plan }, schemas, names)}
          </pre>
        )}
      </section>
    </div>
  );
}

function Found({ title, what, warns = false }: { title: string; what: readonly string[]; warns?: boolean }) {
  if (what.length === 0) return null;
  return (
    <p className={cx('rounded-[8px] px-3 py-2', warns ? 'bg-saffron-wash text-saffron' : 'bg-wash')}>
      <span className="block text-small font-semibold">{title}</span>
      {what.join(', ')}
    </p>
  );
}
