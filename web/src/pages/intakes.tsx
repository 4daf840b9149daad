import { useNavigate, useSearchParams, Link } from 'react-router';
import { useIntakes, useMe } from '../api/hooks.ts';
import { Button } from '../parts/button.tsx';
import { cx } from '../parts/cx.ts';
import { listKeys, useKeys } from '../parts/keys.ts';
import { Heading, Sheet, TD, TH } from '../parts/sheet.tsx';
import { Sparkline } from '../parts/sparkline.tsx';
import { IntakeStateTag } from '../parts/state.tsx';
import { Empty, Fetched } from '../parts/states.tsx';
import { count, Moment } from '../parts/time.tsx';

const FROM = { page: 'pasted HTML', events: 'signed events', file: 'a file', program: 'a program' };

export function Intakes() {
  const intakes = useIntakes();
  const me = useMe();
  const navigate = useNavigate();
  const [params, setParams] = useSearchParams();
  const list = intakes.data ?? [];
  const at = Math.max(
    0,
    list.findIndex(({ id }) => id === params.get('at')),
  );
  const mayMake = me.data?.role !== 'viewer';
  useKeys({
    ...listKeys(list.length, at, (to) => list[to] && setParams({ at: list[to].id }, { replace: true })),
    Enter: () => list[at] && void navigate(`/intakes/${list[at].id}`),
    ...(mayMake ? { n: () => void navigate('/intakes/new') } : {}),
  });
  return (
    <>
      <Heading
        title="Intakes"
        actions={
          mayMake && (
            <Button look="strong" hotkey="N" onClick={() => void navigate('/intakes/new')}>
              New intake
            </Button>
          )
        }
      />
      <Sheet>
        <Fetched query={intakes}>
          {() =>
            list.length === 0 ? (
              <Empty title="No intake yet">
                An intake is a door for submissions. Make one from a page that has a form, an event, a file of old
                submissions, or what a program sends.
              </Empty>
            ) : (
              <table className="w-full">
                <thead>
                  <tr>
                    <th className={cx(TH, 'pl-4')}>Intake</th>
                    <th className={TH}>State</th>
                    <th className={TH}>Comes from</th>
                    <th className={TH}>Two weeks</th>
                    <th className={TH}>Today</th>
                    <th className={TH}>Recognised</th>
                    <th className={TH}>In review</th>
                    <th className={TH}>Refused</th>
                    <th className={TH}>Last</th>
                  </tr>
                </thead>
                <tbody>
                  {list.map(({ id, name, key, state, liveVersion, source, fields, figures }, index) => (
                    <tr
                      key={id}
                      className={cx('cursor-pointer hover:bg-wash', index === at && 'bg-plum-wash/50')}
                      onClick={() => void navigate(`/intakes/${id}`)}
                    >
                      <td className={cx(TD, 'py-2.5 pl-4', index === at && 'shadow-[inset_3px_0_0_var(--color-plum)]')}>
                        <Link to={`/intakes/${id}`} className="font-semibold">
                          {name}
                        </Link>
                        <span className="block text-small text-soft">
                          {key}, {fields} fields
                        </span>
                      </td>
                      <td className={TD}>
                        <IntakeStateTag state={state} />{' '}
                        {liveVersion !== null && <span className="text-small text-soft">version {liveVersion}</span>}
                      </td>
                      <td className={cx(TD, 'max-w-[220px] truncate text-small text-soft')}>
                        {source.page ?? FROM[source.kind]}
                      </td>
                      <td className={TD}>
                        {figures && (
                          <Sparkline
                            values={figures.perDay}
                            label={`Submissions a day: ${figures.perDay.join(', ')}`}
                          />
                        )}
                      </td>
                      <td className={cx(TD, 'font-mono')}>{count(figures?.today ?? 0)}</td>
                      <td className={cx(TD, 'font-mono')}>
                        {figures && figures.applied > 0
                          ? `${Math.round((figures.recognised / figures.applied) * 100)} %`
                          : '–'}
                      </td>
                      <td className={cx(TD, 'font-mono', (figures?.inReview ?? 0) > 0 && 'text-saffron')}>
                        {count(figures?.inReview ?? 0)}
                      </td>
                      <td className={cx(TD, 'font-mono', (figures?.refused ?? 0) > 0 && 'text-brick')}>
                        {count(figures?.refused ?? 0)}
                      </td>
                      <td className={cx(TD, 'text-small text-soft')}>
                        <Moment at={figures?.last} />
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )
          }
        </Fetched>
      </Sheet>
    </>
  );
}
