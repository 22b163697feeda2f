import { writeCalendar } from '@lucky-needle/core/formats';
import { DueItem } from '@lucky-needle/core/model';
import { dueDates } from '@lucky-needle/core/plan';
import type { Route } from '../http/route.ts';
import type { Bench } from '../services/bench.ts';
import type { Services } from '../services/services.ts';
import { listOf } from './paging.ts';
import { upperFirst } from '@lucky-needle/core/words';

/** Gadgets of a bench are few; all of them are looked at. */
const MOST = 10_000;

export function dueRoutes(bench: Bench, { ownReferences }: Services): Route[] {
  const due = async (): Promise<DueItem[]> => {
    const gadgets = await bench.tables.gadgets.list(MOST, 0);
    const all = await Promise.all(
      gadgets.map(async (gadget) => ({
        gadget,
        calibrations: await bench.tables.calibrations.list(gadget.id),
      })),
    );
    return dueDates(all, await ownReferences.list(), bench.now().slice(0, 10));
  };
  return [
    {
      method: 'get',
      path: '/api/due',
      summary: 'Checks due, soonest first: your own references and every active calibration',
      answer: listOf(DueItem),
      async handle() {
        const items = await due();
        return { items, total: items.length };
      },
    },
    {
      method: 'get',
      path: '/api/due/calendar',
      summary: 'The checks due as a calendar file, with a reminder a week before each',
      media: 'text/calendar',
      async handle(_request, response) {
        const dates = (await due()).map(({ kind, id, title, detail, dueOn }) => ({
          uid: `${kind}-${id}@lucky-needle`,
          dueS: Date.parse(dueOn) / 1000,
          summary: kind === 'reference' ? `Check ${title}` : `Calibrate ${title}`,
          description: `${upperFirst(detail)}.`,
        }));
        response.setHeader('Content-Disposition', 'attachment; filename="checks.ics"');
        response
          .type('text/calendar; charset=utf-8')
          .send(writeCalendar(dates, Date.parse(bench.now()) / 1000));
      },
    },
  ];
}
