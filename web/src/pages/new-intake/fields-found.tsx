import { sentByScript } from '@zusammen/core/forms';
import { plural } from '../../parts/plural.ts';
import { Incoming } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { TD, TH } from '../../parts/sheet.tsx';
import { ValueText } from '../../parts/values.tsx';
import type { Brought } from './brought.ts';

/** The fields that were found, as a visitor sees them and as they are sent, and what is left out with the reason. */
export function FieldsFound({ brought }: { brought: Brought }) {
  const { fields, left, samples } = brought;
  const shown = samples.length > 0;
  const script = sentByScript(fields);
  return (
    <div tabIndex={0} aria-label="Fields found" className="max-h-[calc(100vh-210px)] overflow-auto">
      {script.only.length > 0 && (
        <p className="border-b border-hair px-4 py-2.5 text-saffron">
          {script.all
            ? 'None of these has a name on the page, so a browser sends nothing of the form: posting straight can’t work there. The script of this intake’s page sends them.'
            : `${plural(script.only.length, 'field')} without a name: a browser sends nothing of ${script.only.length === 1 ? 'it' : 'them'}, the script of this intake’s page does.`}
        </p>
      )}
      <table className="w-full">
        <thead>
          <tr>
            <th className={cx(TH, 'pl-4')}>{brought.source.kind === 'page' ? 'As a visitor sees it' : 'Field'}</th>
            <th className={TH}>Name</th>
            <th className={TH}>Kind</th>
            <th className={TH}>{shown ? 'Sample' : 'Options'}</th>
          </tr>
        </thead>
        <tbody>
          {fields.map((field) => (
            <tr key={field.name}>
              <td className={cx(TD, 'max-w-[260px] pl-4')}>
                <Incoming>{field.label}</Incoming>
                {field.required && <span className="ml-2 text-small text-soft">required</span>}
              </td>
              <td className={cx(TD, 'font-mono text-[13px]')}>{field.name}</td>
              <td className={cx(TD, 'whitespace-nowrap')}>
                {field.type}
                {field.hidden && <span className="text-soft">, hidden</span>}
                {field.group !== undefined && <span className="text-soft">, repeats</span>}
                {field.byScript && <span className="text-soft">, sent by script only</span>}
              </td>
              <td
                className={cx(TD, 'max-w-[240px] truncate text-small text-soft')}
                title={field.options?.map(({ label }) => label).join(', ')}
              >
                {shown ? (
                  <ValueText value={samples[0]?.[field.name]} />
                ) : (
                  field.options?.map(({ label }) => label).join(', ')
                )}
              </td>
            </tr>
          ))}
          {left.map((each, at) => (
            <tr key={at} className="text-soft">
              <td className={cx(TD, 'pl-4')}>{each.label || 'without a label'}</td>
              <td className={cx(TD, 'font-mono text-[13px]')}>{each.name || '–'}</td>
              <td className={TD} colSpan={2}>
                left out: {each.reason}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
