import { Type } from 'typebox';
import { mean, normalQuantile, studentTQuantile } from '../../numerics/index.ts';
import { accuracy as analyse, type AccuracyReading } from '../../prove/accuracy.ts';
import { number } from '../../stage/params.ts';
import { UNITS } from '../../units/index.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import { groupsOf } from '../../prove/groupsOf.ts';
import { axis, columnOf, counted, fact, notShown, passes, sized, unasked, withWorth } from '../words.ts';

const LEAST_PLACES = 3;
/** Share of the brief's range that the references must reach over. */
const REACH = 0.8;

/** Against references over the range, up and down: bias, repeatability, linearity, hysteresis. */
export const accuracy = studyKind<{ referenceU?: number }>({
  kind: 'accuracy',
  title: 'Accuracy over the range',
  question: 'How far off is it, and where?',
  needs:
    'References at three places or more from end to end, each read twice or more, going up and coming down.',
  claim: 'Right over the range',
  settings: Type.Object({
    referenceU: Type.Optional(number('The reference is good to ±', { min: 0 })),
  }),
  begin: () => ({}),
  inUnit: ['referenceU'],
  columns: [
    { id: 'reference', title: 'Reference', holds: 'reference' },
    { id: 'shown', title: 'It reads', holds: 'shown' },
    { id: 'approach', title: 'Coming', holds: 'choice', choices: ['either', 'up', 'down'] },
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
        `${counted(places.length, 'place')}, ${repeated} of them read twice or more; ${LEAST_PLACES} are needed.`,
        repeated < places.length ? 'Read each reference again.' : 'Read another reference.',
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
        parts.linearity === null ? 'not tried' : `${sized(parts.linearity, unit)} off the best line`,
      ),
      fact(
        'Hysteresis',
        parts.hysteresis === null ? 'not tried: go up and come down' : sized(parts.hysteresis, unit),
      ),
      fact('Smallest step seen', parts.resolution === null ? 'none' : sized(parts.resolution, unit)),
    ];
    const plots: StudyResult['plots'] = [
      {
        title: 'Error over the range',
        x: axis('reference', symbol),
        y: axis('reads less reference', symbol),
        series: [
          ...(['up', 'down', undefined] as const).flatMap((way) => {
            const some = readings.filter((r) => r.approach === way);
            return some.length === 0
              ? []
              : [
                  {
                    label: way === undefined ? 'reading' : `coming ${way}`,
                    x: some.map((r) => r.reference),
                    y: some.map((r) => r.shown - r.reference),
                    style: 'points' as const,
                  },
                ];
          }),
          { label: 'on average', x: errors.map((e) => e.at), y: errors.map((e) => e.error), style: 'middle' },
        ],
        allowed: tolerance === null ? null : [-tolerance, tolerance],
      },
    ];
    const worst = errors.toSorted((a, b) => Math.abs(b.error) - Math.abs(a.error))[0]!;
    const said = `At worst, near ${sized(worst.at, unit, 3)}, it reads ${withWorth(worst.error, worst.u, unit)} off; a single reading there is good to ${Number.isNaN(worst.single) ? '± not known' : `±${sized(Math.abs(worst.error) + worst.single, unit)}`}.`;
    if (Number.isNaN(referenceU))
      return notShown(
        `${said} What the reference is good to is not known.`,
        'Say what the reference is good to.',
        facts,
        plots,
      );
    if (tolerance === null) return unasked(said, facts, plots);
    const beyond = errors.filter((e) => Math.abs(e.error) - e.u > tolerance);
    if (beyond.length > 0)
      return {
        state: 'fail',
        sentence: `${said} ±${sized(tolerance, unit)} is allowed, and ${counted(beyond.length, 'place lies', 'places lie')} outside.`,
        next: 'True it up again, or look for what bends.',
        facts,
        plots,
      };
    const columns = columnOf(rows, 'reference');
    const reach = range ? (Math.max(...columns) - Math.min(...columns)) / (range[1] - range[0]) : 1;
    if (reach < REACH)
      return notShown(
        `${said} The references reach over ${Math.round(100 * reach)} % of the range; ${100 * REACH} % are wanted.`,
        'Read references nearer its ends.',
        facts,
        plots,
      );
    const open = errors.filter((e) => Math.abs(e.error) + e.single > tolerance);
    if (open.length > 0)
      return notShown(
        `${said} ±${sized(tolerance, unit)} is allowed: at ${counted(open.length, 'place')} that is not sure.`,
        referenceU > tolerance / 2
          ? 'Find a better reference.'
          : 'Read each reference more often, or filter more.',
        facts,
        plots,
      );
    return passes(`${said} ±${sized(tolerance, unit)} is allowed.`, facts, plots);
  },
});
