import type { Range } from '@zusammen/core/api';
import { intakesWithoutKey } from '../../store/index.ts';
import type { Context } from '../context.ts';
import { RANGES, todayFigures } from '../figures.ts';
import { badField } from '../problem.ts';
import { Rested } from '../rested.ts';
import { route, type Route } from '../route.ts';

export const todayRoutes = ({ db }: Context): Route[] => {
  const figures = new Rested((range: Range) => todayFigures(db, range, new Date()));
  return [
    route({
      method: 'get',
      path: '/today',
      summary: 'What arrived, what came of it, and what needs somebody',
      role: 'viewer',
      work: async ({ query }) => {
        const range = (query['range'] ?? '24h') as Range;
        if (!Object.hasOwn(RANGES, range)) throw badField('range', `must be one of ${Object.keys(RANGES).join(', ')}`);
        // That an intake refuses everything is quickly asked, and never shown late as the figures may be.
        const [today, withoutKey] = await Promise.all([figures.get(range), intakesWithoutKey(db)]);
        return { ...today, withoutKey };
      },
    }),
  ];
};
