import { v7 } from 'uuid';
import type { Schemas } from '../api/client';
import { spans } from './places';

const kindAt: Record<Schemas['DoneAt'], Schemas['LineKind']> = {
  bench: 'ownHours',
  machineShop: 'shopWork',
  specialist: 'shopWork',
  supplier: 'part',
};

/** Lines of what is advised, group by group, with nothing in the price yet but own hours. */
export const fromAdvice = (
  board: Pick<Schemas['VerdictBoard'], 'groups'>,
  courses: readonly Schemas['KnownCourse'][],
  currency: string,
  hour: number,
): Schemas['OptionLine'][] =>
  board.groups.flatMap((g) =>
    g.advised.flatMap((a) => {
      const course = courses.find((c) => c.id === a.course);
      if (!course || course.action === 'reuse') return [];
      const kind = kindAt[course.at];
      return [
        {
          id: v7(),
          kind,
          what: `${course.name}: ${g.name.toLowerCase()} ${spans(a.places).slice(0, 4).join(' ')}`,
          quantity: kind === 'part' ? a.places.length : 1,
          price: kind === 'ownHours' ? hour : 0,
          currency,
          days: 0,
          group: g.id,
          course: course.id,
        },
      ];
    }),
  );
