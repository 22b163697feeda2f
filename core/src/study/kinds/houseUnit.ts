import { Type } from 'typebox';
import { chiSquareQuantile, mean, studentTQuantile } from '../../numerics/index.ts';
import { number } from '../../stage/params.ts';
import { UNITS } from '../../units/index.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import { groupsOf } from '../../prove/groupsOf.ts';
import { axis, axisOfNames, fact, notShown, passes, sized } from '../words.ts';
import { counted } from '../../words/index.ts';

/** A number that only means something beside others of the same gadget: how small a difference it can tell. */
export const houseUnit = studyKind<{ tellApart?: number }>({
  kind: 'house-unit',
  title: 'House unit',
  question: 'How small a difference can the gadget detect, in its own unit?',
  needs: 'At least two items, each measured at least three times.',
  claim: 'Detects the required difference, in its own unit',
  settings: Type.Object({ tellApart: Type.Optional(number('Required difference', { above: 0 })) }),
  begin: ({ tolerance }) => (tolerance === null ? {} : { tellApart: tolerance }),
  inUnit: ['tellApart'],
  columns: [
    { id: 'item', title: 'Item', holds: 'text' },
    { id: 'shown', title: 'Reading', holds: 'shown' },
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
        `${counted(items.length, 'item')}${thin ? `, ${thin.item} measured ${counted(thin.values.length, 'time')}` : ''}; at least two are needed, each measured three times.`,
        thin ? `Measure ${thin.item} again.` : 'Measure another item.',
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
        'Repeatability',
        `${sized(sd, unit)} standard deviation, ${counted(freedom, 'degree')} of freedom`,
      ),
      fact('Smallest detectable difference', sized(apart, unit)),
      fact('Ranking', order),
      fact('True value', 'not claimed, because not traceable to an external reference'),
    ];
    const plots: StudyResult['plots'] = [
      {
        title: 'Readings by item',
        x: axisOfNames(
          'item',
          items.map(({ item }) => item),
        ),
        y: axis('reading', UNITS[unit].symbol),
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
    const said = `Two single readings are different (95 % confidence) if they are at least ${sized(apart, unit)} apart. Ranking: ${order}. No claim is made about true values.`;
    if (tellApart === undefined) return notShown(said, 'Enter the required difference.', facts, plots);
    if (most <= tellApart) return passes(said, facts, plots);
    if (apart * Math.sqrt(freedom / chiSquareQuantile(0.95, freedom)) > tellApart)
      return {
        state: 'fail',
        sentence: `${said} Required: ${sized(tellApart, unit)}.`,
        next: 'Filter more, or average several readings.',
        facts,
        plots,
      };
    return notShown(
      `${said} Required: ${sized(tellApart, unit)}; not proven yet.`,
      'Measure each item more often.',
      facts,
      plots,
    );
  },
});
