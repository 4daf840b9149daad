import { Link } from 'react-router';
import { Sheet } from './sheet.tsx';
import { Empty } from './states.tsx';

/** An address names an entity that no connection sees. */
export const NoSuchEntity = () => (
  <Sheet>
    <Empty title="There is no such entity">
      <Link className="text-plum underline" to="/schema">
        Go to Schema
      </Link>
    </Empty>
  </Sheet>
);
