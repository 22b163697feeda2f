import { Type } from 'typebox';
import { chiSquareQuantile, mean, studentTQuantile } from '../../numerics/index.ts';
import { number } from '../../stage/params.ts';
import { UNITS } from '../../units/index.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import { groupsOf } from '../../prove/groupsOf.ts';
import { axis, axisOfNames, counted, fact, notShown, passes, sized } from '../words.ts';

/** A number that only means something beside others of the same gadget: how small a difference it can tell. */
export const houseUnit = studyKind<{ tellApart?: number }>({
  kind: 'house-unit',
  title: 'A unit of the house',
  question: 'How small a difference can it tell, if its unit is its own?',
  needs: 'Two things or more, each read three times or more on its own.',
  claim: 'Tells apart what it shall, in its own unit',
  settings: Type.Object({ tellApart: Type.Optional(number('It shall tell apart', { above: 0 })) }),
  begin: ({ tolerance }) => (tolerance === null ? {} : { tellApart: tolerance }),
  inUnit: ['tellApart'],
  columns: [
    { id: 'item', title: 'Thing', holds: 'text' },
    { id: 'shown', title: 'It reads', holds: 'shown' },
  ],
  takes: null,
  suits: () => true,
  judge({ tellApart }, { rows }, { unit }): StudyResult {
    const items = groupsOf(
      rows.map(({ values }) => ({ item: String(values['item']), value: Number(values['shown']) })),
      (r) => r.item,
    ).map(([item, own]) => ({ item, values: own.map((r) => r.value), mean: mean(own.map((r) => r.value)) }));
    const thin = items.find((i) => i.values.length < 3);
    if (items.length < 2 || thin)
      return notShown(
        `${counted(items.length, 'thing')}${thin ? `, ${thin.item} read ${counted(thin.values.length, 'time')}` : ''}; two are needed, each read three times.`,
        thin ? `Read ${thin.item} again.` : 'Read another thing.',
      );
    const freedom = items.reduce((s, i) => s + i.values.length - 1, 0);
    const sd = Math.sqrt(
      items.reduce((s, i) => s + i.values.reduce((a, v) => a + (v - i.mean) ** 2, 0), 0) / freedom,
    );
    // Between two single readings; at 95 % of all pairs.
    const t = studentTQuantile(0.975, freedom);
    const apart = t * Math.SQRT2 * sd;
    const most = apart * Math.sqrt(freedom / chiSquareQuantile(0.05, freedom));
    const ranked = items.toSorted((a, b) => b.mean - a.mean);
    const order = ranked
      .map(({ item, mean: own, values }, i) => {
        const next = ranked[i + 1];
        if (!next) return item;
        const clear = own - next.mean > t * sd * Math.sqrt(1 / values.length + 1 / next.values.length);
        return `${item} ${clear ? '>' : '≈'} `;
      })
      .join('');
    const facts = [
      fact(
        'Repeats within',
        `${sized(sd, unit)} standard deviation, ${counted(freedom, 'degree')} of freedom`,
      ),
      fact('Two single readings differ for sure by', sized(apart, unit)),
      fact('In order', order),
      fact('What is true', 'not claimed: nothing outside the house stands behind it'),
    ];
    const plots: StudyResult['plots'] = [
      {
        title: 'Readings of each thing',
        x: axisOfNames(
          'thing',
          items.map(({ item }) => item),
        ),
        y: axis('reads', UNITS[unit].symbol),
        series: [
          {
            label: 'reading',
            x: items.flatMap((item, i) => item.values.map(() => i + 1)),
            y: items.flatMap((item) => item.values),
            style: 'points',
          },
        ],
        allowed: null,
      },
    ];
    const said = `Two single readings differ for sure when they lie ${sized(apart, unit)} apart. In order: ${order}. Nothing is claimed of what is true.`;
    if (tellApart === undefined) return notShown(said, 'Say what it shall tell apart.', facts, plots);
    if (most <= tellApart) return passes(said, facts, plots);
    if (apart * Math.sqrt(freedom / chiSquareQuantile(0.95, freedom)) > tellApart)
      return {
        state: 'fail',
        sentence: `${said} ${sized(tellApart, unit)} was asked for.`,
        next: 'Filter more, or take the mean of several readings.',
        facts,
        plots,
      };
    return notShown(
      `${said} ${sized(tellApart, unit)} was asked for: that is not sure yet.`,
      'Read each thing more often.',
      facts,
      plots,
    );
  },
});
