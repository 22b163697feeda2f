import { Type } from 'typebox';
import { mean, normalQuantile, studentTQuantile } from '../../numerics/index.ts';
import { accuracy as analyse, type AccuracyReading } from '../../prove/accuracy.ts';
import { number } from '../../stage/params.ts';
import { UNITS } from '../../units/index.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import { groupsOf } from '../../prove/groupsOf.ts';
import { axis, columnOf, fact, notShown, passes, sized, unasked, withWorth } from '../words.ts';
import { counted } from '../../words/index.ts';

const LEAST_PLACES = 3;
/** Share of the brief's range that the references must reach over. */
const REACH = 0.8;

/** Against references over the range, up and down: bias, repeatability, linearity, hysteresis. */
export const accuracy = studyKind<{ referenceU?: number }>({
  kind: 'accuracy',
  title: 'Accuracy over the range',
  question: 'How large is the error, and where?',
  needs:
    'Reference values at three or more points across the range, each measured at least twice, going up and coming down.',
  claim: 'Accurate over the range',
  settings: Type.Object({
    referenceU: Type.Optional(number('Reference uncertainty ±', { min: 0 })),
  }),
  begin: () => ({}),
  inUnit: ['referenceU'],
  columns: [
    { id: 'reference', title: 'Reference', holds: 'reference' },
    { id: 'shown', title: 'Reading', holds: 'shown' },
    { id: 'approach', title: 'Approach', holds: 'choice', choices: ['either', 'up', 'down'] },
  ],
  takes: null,
  suits: () => true,
  judge({ referenceU = Number.NaN }, { rows }, { unit, tolerance, range }): StudyResult {
    const symbol = UNITS[unit].symbol;
    const readings = rows.map(({ values, keptS }): AccuracyReading => {
      const approach = values['approach'];
      return {
        reference: Number(values['reference']),
        shown: Number(values['shown']),
        ...(approach === 'up' || approach === 'down' ? { approach } : {}),
        timeS: keptS,
      };
    });
    const places = groupsOf(readings, (r) => r.reference).sort(([a], [b]) => a - b);
    const repeated = places.filter(([, at]) => at.length > 1).length;
    if (places.length < LEAST_PLACES || repeated < LEAST_PLACES)
      return notShown(
        `${counted(places.length, 'reference value')}, ${repeated} of them measured at least twice; ${LEAST_PLACES} are needed.`,
        repeated < places.length ? 'Measure each reference again.' : 'Measure another reference.',
      );
    const parts = analyse(readings, referenceU / 2);
    const sd = parts.repeatabilitySd!;
    const freedom = readings.length - places.length;
    const t = studentTQuantile(0.975, freedom);
    const errors = places.map(([at, group]) => {
      const error = mean(group.map((r) => r.shown - at));
      return {
        at,
        error,
        // Of its mean; and of a single reading, which scatters as well.
        u: Math.hypot((t * sd) / Math.sqrt(group.length), normalQuantile(0.975) * (referenceU / 2)),
        single: Math.hypot(
          t * sd * Math.sqrt(1 + 1 / group.length),
          normalQuantile(0.975) * (referenceU / 2),
        ),
      };
    });
    const facts = [
      fact('Bias', withWorth(parts.bias, parts.biasHalfWidth95, unit)),
      fact(
        'Repeatability',
        `${sized(sd, unit)} standard deviation, ${counted(freedom, 'degree')} of freedom`,
      ),
      fact(
        'Linearity',
        parts.linearity === null ? 'not tested' : `${sized(parts.linearity, unit)} from the best-fit line`,
      ),
      fact(
        'Hysteresis',
        parts.hysteresis === null
          ? 'not tested: measure going up and coming down'
          : sized(parts.hysteresis, unit),
      ),
      fact('Smallest step observed', parts.resolution === null ? 'none' : sized(parts.resolution, unit)),
    ];
    const plots: StudyResult['plots'] = [
      {
        title: 'Error over the range',
        x: axis('reference', symbol),
        y: axis('reading minus reference', symbol),
        series: [
          ...(['up', 'down', undefined] as const).flatMap((way) => {
            const some = readings.filter((r) => r.approach === way);
            return some.length === 0
              ? []
              : [
                  {
                    label: way === undefined ? 'reading' : `going ${way}`,
                    x: some.map((r) => r.reference),
                    y: some.map((r) => r.shown - r.reference),
                    style: 'points' as const,
                  },
                ];
          }),
          { label: 'mean error', x: errors.map((e) => e.at), y: errors.map((e) => e.error), style: 'middle' },
        ],
        allowed: tolerance === null ? null : [-tolerance, tolerance],
      },
    ];
    const worst = errors.toSorted((a, b) => Math.abs(b.error) - Math.abs(a.error))[0]!;
    const said = `Largest error ${withWorth(worst.error, worst.u, unit)}, near ${sized(worst.at, unit, 3)}; accuracy of a single reading there: ${Number.isNaN(worst.single) ? 'unknown' : `±${sized(Math.abs(worst.error) + worst.single, unit)}`}.`;
    if (Number.isNaN(referenceU))
      return notShown(
        `${said} The uncertainty of the reference is unknown.`,
        'Enter the uncertainty of the reference.',
        facts,
        plots,
      );
    if (tolerance === null) return unasked(said, facts, plots);
    const beyond = errors.filter((e) => Math.abs(e.error) - e.u > tolerance);
    if (beyond.length > 0)
      return {
        state: 'fail',
        sentence: `${said} Tolerance ±${sized(tolerance, unit)}, exceeded at ${counted(beyond.length, 'reference value')}.`,
        next: 'Calibrate again, or find the cause of the nonlinearity.',
        facts,
        plots,
      };
    const columns = columnOf(rows, 'reference');
    const reach = range ? (Math.max(...columns) - Math.min(...columns)) / (range[1] - range[0]) : 1;
    if (reach < REACH)
      return notShown(
        `${said} The references cover ${Math.round(100 * reach)} % of the range; at least ${100 * REACH} % is required.`,
        'Add references nearer to the ends of the range.',
        facts,
        plots,
      );
    const open = errors.filter((e) => Math.abs(e.error) + e.single > tolerance);
    if (open.length > 0)
      return notShown(
        `${said} Tolerance ±${sized(tolerance, unit)}; not proven at ${counted(open.length, 'reference value')}.`,
        referenceU > tolerance / 2
          ? 'Use a better reference.'
          : 'Measure each reference more often, or filter more.',
        facts,
        plots,
      );
    return passes(`${said} Tolerance ±${sized(tolerance, unit)}.`, facts, plots);
  },
});
