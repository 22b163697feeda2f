import { Type } from 'typebox';
import { chiSquareQuantile } from '../../numerics/index.ts';
import { repeatStudy } from '../../prove/repeatStudy.ts';
import { printNumber, UNITS } from '../../units/index.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import { groupsOf } from '../../prove/groupsOf.ts';
import { axis, axisOfNames, fact, notShown, passes, sized, unasked } from '../words.ts';

/** Several people or mountings, several things, several times: where the scatter comes from. */
export const repeat = studyKind<Record<string, never>>({
  kind: 'repeat',
  title: 'Same for everyone',
  question: 'Is the reading the same for every person and every mounting?',
  needs: 'At least two people or mountings, each measuring the same two or more items at least twice.',
  claim: 'Same reading for every person and mounting',
  settings: Type.Object({}),
  begin: () => ({}),
  inUnit: [],
  columns: [
    { id: 'by', title: 'Person or mounting', holds: 'text' },
    { id: 'item', title: 'Item', holds: 'text' },
    { id: 'shown', title: 'Reading', holds: 'shown' },
  ],
  takes: null,
  suits: () => true,
  judge(_settings, { rows }, { unit, tolerance }): StudyResult {
    const readings = rows.map(({ values }) => ({
      item: String(values['item']),
      by: String(values['by']),
      value: Number(values['shown']),
    }));
    const items = groupsOf(readings, (r) => r.item);
    const people = groupsOf(readings, (r) => r.by);
    const cells = people.map(([, own]) => items.map(([item]) => own.filter((r) => r.item === item).length));
    const least = Math.min(...cells.flat());
    if (items.length < 2 || people.length < 2 || least < 2 || new Set(cells.flat()).size > 1)
      return notShown(
        `${people.length} people or mountings, ${items.length} items, at least ${Number.isFinite(least) ? least : 0} readings each; two of each are needed, with equally many readings for every combination.`,
        lackingIn(
          people.map(([by]) => by),
          items.map(([item]) => item),
          cells,
        ),
      );
    const result = repeatStudy(readings);
    // Of what the measuring scatters by: how much the things differ is no fault of it.
    const [again, by, quarrel] = [result.repeatability, result.by, result.interaction].map(
      (v) => v / (result.measuringSd ** 2 || 1),
    ) as [number, number, number];
    const share = (v: number) => `${printNumber(100 * v, 0)} %`;
    const facts = [
      fact('Measurement scatter', `${sized(result.measuringSd, unit)} standard deviation`),
      fact(
        'Repeatability (same person)',
        `${sized(Math.sqrt(result.repeatability), unit)}, ${share(again)} of the measurement variance`,
      ),
      fact('Between people or mountings', `${sized(Math.sqrt(result.by), unit)}, ${share(by)}`),
      fact('Person–item interaction', `${sized(Math.sqrt(result.interaction), unit)}, ${share(quarrel)}`),
      fact('Between items', `${sized(Math.sqrt(result.item), unit)} standard deviation`),
    ];
    const plots: StudyResult['plots'] = [
      {
        title: 'Readings by person or mounting',
        x: axisOfNames(
          'person or mounting',
          people.map(([name]) => name),
        ),
        y: axis('reading minus item mean', UNITS[unit].symbol),
        series: [
          {
            label: 'reading',
            x: readings.map((r) => people.findIndex(([name]) => name === r.by) + 1),
            y: readings.map((r) => r.value - meanOf(items.find(([i]) => i === r.item)![1])),
            style: 'points',
          },
        ],
        allowed: tolerance === null ? null : [-tolerance, tolerance],
      },
    ];
    // Of few people little is known of how they differ: the interval is that of the least degrees of freedom that count.
    const freedom =
      result.by + result.interaction > result.repeatability
        ? people.length - 1
        : readings.length - items.length * people.length;
    const bound = (p: number) => 2 * result.measuringSd * Math.sqrt(freedom / chiSquareQuantile(p, freedom));
    const said = `Whoever measures, readings scatter by ±${sized(2 * result.measuringSd, unit)}; ${share(by + quarrel)} of the variance comes from people or mountings.`;
    if (tolerance === null) return unasked(said, facts, plots);
    if (bound(0.95) > tolerance)
      return {
        state: 'fail',
        sentence: `${said} Tolerance ±${sized(tolerance, unit)}.`,
        next:
          by + quarrel > again
            ? 'Make sure that it can be mounted in only one way.'
            : 'Filter more: one person’s readings scatter as much.',
        facts,
        plots,
      };
    if (bound(0.05) > tolerance)
      return notShown(
        `${said} With ${freedom} degrees of freedom it may be as much as ±${sized(bound(0.05), unit)}; tolerance ±${sized(tolerance, unit)}.`,
        'Let more people measure, or mount it in more ways.',
        facts,
        plots,
      );
    return passes(`${said} Tolerance ±${sized(tolerance, unit)}.`, facts, plots);
  },
});

const meanOf = (readings: readonly { value: number }[]) =>
  readings.reduce((s, r) => s + r.value, 0) / readings.length;

function lackingIn(
  people: readonly string[],
  items: readonly string[],
  cells: readonly (readonly number[])[],
): string {
  if (people.length < 2) return 'Let another person measure, or mount it in another way.';
  if (items.length < 2) return 'Measure another item.';
  const most = Math.max(2, ...cells.flat());
  const p = cells.findIndex((row) => row.some((n) => n < most));
  const i = cells[p]!.findIndex((n) => n < most);
  return `Next: ${people[p]} measures ${items[i]} again.`;
}
