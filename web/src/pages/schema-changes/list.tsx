import { Link } from 'react-router';
import { useMe } from '../../api/hooks.ts';
import { useSchemaChanges } from '../../api/schema.ts';
import { cx } from '../../parts/cx.ts';
import { Heading, Sheet, TD, TH } from '../../parts/sheet.tsx';
import { Empty, Fetched } from '../../parts/states.tsx';
import { Moment } from '../../parts/time.tsx';
import { ChangeTag } from './state.tsx';

/** What was changed of schemas from here, the newest first. */
export function SchemaChanges() {
  const changes = useSchemaChanges();
  const me = useMe();
  return (
    <>
      <Heading crumbs={<Link to="/schema">Schema /</Link>} title="What was changed" />
      <Sheet>
        <Fetched query={changes}>
          {(list) =>
            list.length === 0 ? (
              <Empty title="Nothing has been changed from here yet">
                {me.data?.role !== 'viewer' && (
                  <Link to="/schema/new" className="text-plum underline">
                    Make a new entity
                  </Link>
                )}
              </Empty>
            ) : (
              <table className="w-full">
                <thead>
                  <tr>
                    <th className={cx(TH, 'pl-4')}>What</th>
                    <th className={TH}>When, by whom</th>
                    <th className={TH}>State</th>
                  </tr>
                </thead>
                <tbody>
                  {list.map((change) => (
                    <tr key={change.id}>
                      <td className={cx(TD, 'pl-4')}>
                        <Link className="font-semibold hover:underline" to={`/schema/changes/${change.id}`}>
                          {change.title}
                        </Link>
                        {change.words !== null && <span className="block text-small text-brick">{change.words}</span>}
                      </td>
                      <td className={cx(TD, 'text-small text-soft')}>
                        <Moment at={change.at} />, {change.by}
                      </td>
                      <td className={TD}>
                        <ChangeTag change={change} />
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
