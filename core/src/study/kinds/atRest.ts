import { Type } from 'typebox';
import { effectiveCount, mean, sampleSd } from '../../numerics/index.ts';
import { number } from '../../stage/params.ts';
import { UNITS } from '../../units/index.ts';
import { wentSomewhere } from '../evenReadings.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import { across, axis, fact, notShown, passes, sized, unasked, withWorth } from '../words.ts';
import { counted } from '../../words/index.ts';

const LEAST = 30;

/** What it reads when there is nothing to read: below that, a reading is noise. */
export const atRest = studyKind<{ truth: number }>({
  kind: 'at-rest',
  title: 'At rest',
  question: 'What does the gadget read when there is nothing to measure?',
  needs: 'A run, or a section of one, with nothing to measure: no load, no current, no motion.',
  claim: 'Correct reading at rest',
  settings: Type.Object({ truth: number('True value at rest') }),
  begin: () => ({ truth: 0 }),
  inUnit: ['truth'],
  columns: [],
  takes: 'readings',
  suits: ({ range }) => range === null || range[0] <= 0,
  judge({ truth }, { samples }, { unit, tolerance }): StudyResult {
    if (samples.length === 0)
      return notShown('No run section added yet.', 'Add a section of a run with nothing to measure.');
    const all = samples.map((s) => s.values.filter((v) => !Number.isNaN(v)));
    const values = Float64Array.from(all.flatMap((v) => Array.from(v)));
    if (values.length < LEAST)
      return notShown(`${values.length} readings; at least ${LEAST} are needed.`, 'Add a longer section.');
    const offset = mean(values) - truth;
    const sd = sampleSd(values);
    const u = (2 * sd) / Math.sqrt(all.reduce((s, v) => s + effectiveCount(v), 0));
    // 95 of 100 readings at rest lie closer than this to what is true.
    const sizes = values.map((v) => Math.abs(v - truth)).sort();
    const floor = sizes[Math.min(sizes.length - 1, Math.ceil(0.95 * sizes.length))]!;
    const symbol = UNITS[unit].symbol;
    // Whole steps of a counter or a converter: how small the noise is below them nobody sees.
    const isOneStep = sd === 0;
    const facts = [
      fact('Mean error', isOneStep ? sized(offset, unit) : withWorth(offset, u, unit)),
      fact('Scatter', isOneStep ? 'below the smallest step' : `${sized(sd, unit)} standard deviation`),
      ...(isOneStep ? [] : [fact('95 % of readings within', `±${sized(floor, unit)}`)]),
      fact('Based on', `${values.length} readings from ${counted(samples.length, 'section')}`),
    ];
    const [first] = samples;
    const thin = Math.max(1, Math.ceil(first!.values.length / 2000));
    const at = Array.from({ length: Math.ceil(first!.values.length / thin) }, (_, k) => k * thin);
    const times = at.map((i) => first!.times[i]! - first!.times[0]!);
    const plots: StudyResult['plots'] = [
      {
        title: `Readings at rest, ${first!.name}`,
        x: axis('time', 's'),
        y: axis(thin > 1 ? `reading, one in ${thin}` : 'reading', symbol),
        series: [
          { label: 'reading', x: times, y: at.map((i) => first!.values[i]!), style: 'line' },
          across('true value', 0, times.at(-1)!, truth, 'middle'),
        ],
        allowed: tolerance === null ? null : [truth - tolerance, truth + tolerance],
      },
    ];
    const said = isOneStep
      ? `At rest all ${values.length} readings are off by ${sized(offset, unit)}; the noise is below the smallest step.`
      : `Mean error at rest ${withWorth(offset, u, unit)}; readings within ±${sized(floor, unit)} of ${`${truth} ${symbol}`.trim()} are noise.`;
    if (all.some(wentSomewhere))
      return notShown(
        `Not at rest: the reading changed by ${sized(Math.max(...values) - Math.min(...values), unit)}, far more than between consecutive readings.`,
        'Add a section in which nothing changed.',
        facts,
        plots,
      );
    if (tolerance === null) return unasked(said, facts, plots);
    const least = isOneStep ? 0 : u;
    if (Math.abs(offset) - least > tolerance)
      return {
        state: 'fail',
        sentence: `${said} Tolerance ±${sized(tolerance, unit)}.`,
        next: 'Correct the offset: capture a point at rest on the True-up page.',
        facts,
        plots,
      };
    if (Math.max(floor, Math.abs(offset) + least) <= tolerance)
      return passes(`${said} Tolerance ±${sized(tolerance, unit)}.`, facts, plots);
    return notShown(
      `${said} Tolerance ±${sized(tolerance, unit)}; single readings exceed it.`,
      'Filter more, or add a longer section.',
      facts,
      plots,
    );
  },
});
