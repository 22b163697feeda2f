import { Type } from 'typebox';
import { allan, bestAveraging } from '../../prove/allan.ts';
import { noise as analyse } from '../../prove/noise.ts';
import { printNumber, printSignificant, UNITS } from '../../units/index.ts';
import { evenReadings, wentSomewhere } from '../evenReadings.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import { histogramPlot, spectrumOf, spectrumPlot } from '../stretchShape.ts';
import { axis, fact, notShown, passes, sized, unasked } from '../words.ts';

const LEAST = 64;
/** Share of the tolerance that noise may take of it at two standard deviations. */
const SHARE = 0.5;

/** How readings scatter while nothing changes, how that is spread over frequencies, and how long averaging helps. */
export const noise = studyKind<Record<string, never>>({
  kind: 'noise',
  title: 'Noise, and how long averaging helps',
  question: 'How much do readings scatter, and would a longer mean help?',
  needs:
    'A run, or a stretch of one, in which nothing changed: the longer, the longer the means that can be judged.',
  claim: 'Quiet enough',
  settings: Type.Object({}),
  begin: () => ({}),
  inUnit: [],
  columns: [],
  takes: 'readings',
  suits: () => true,
  judge(_settings, { samples }, { unit, tolerance, range }): StudyResult {
    const [first] = samples;
    if (!first)
      return notShown('No run has been taken.', 'Take a stretch of a run in which nothing changed.');
    const symbol = UNITS[unit].symbol;
    const even = evenReadings(first);
    const { values, rateHz } = even;
    const n = values.length;
    if (n < LEAST)
      return notShown(
        `${n} readings in a row without a gap; ${LEAST} are needed.`,
        'Take a longer stretch, or one without gaps.',
      );
    const span = range ? range[1] - range[0] : null;
    const result = analyse(values, span ?? 1);
    const factors = Array.from({ length: 60 }, (_, k) => Math.round(1.2 ** k));
    const points = allan(
      values,
      rateHz,
      [...new Set(factors)].filter((m) => 4 * m <= n),
    );
    const best = bestAveraging(points)!;
    const last = points.at(-1)!;
    const facts = [
      fact(
        'Scatter',
        `${sized(result.sd, unit)} standard deviation, ${sized(result.peakToPeak, unit)} from lowest to highest`,
      ),
      fact('Mean', sized(result.mean, unit, 4)),
      fact(
        'Of the brief’s range',
        span === null
          ? 'not known: the brief says nothing of it'
          : result.effectiveBits === null
            ? 'all readings alike: the noise lies below a step'
            : `${printNumber(result.effectiveBits, 1)} effective bits, ${printNumber(result.steadyBits!, 1)} that never flicker`,
      ),
      fact(
        'Best mean',
        best === last
          ? `over ${printSignificant(best.tauS, 2)} s or longer: ±${sized(2 * best.overlapping, unit)} from one to the next, still falling where the run ends`
          : `over ${printSignificant(best.tauS, 2)} s: ±${sized(2 * best.overlapping, unit)} from one to the next; longer ones drift`,
      ),
      fact('Taken from', `${n} readings, ${printSignificant(rateHz, 3)} a second, ${first.name}`),
    ];
    const plots: StudyResult['plots'] = [
      {
        title: 'How far means differ from the next one, over how long each is',
        x: axis('length of a mean', 's', 'logarithmic'),
        y: axis('Allan deviation', symbol, 'logarithmic'),
        series: [
          {
            label: 'Allan deviation',
            x: points.map((p) => p.tauS),
            y: points.map((p) => p.overlapping),
            style: 'line',
          },
          { label: 'best mean', x: [best.tauS], y: [best.overlapping], style: 'points' },
        ],
        allowed: null,
      },
      spectrumPlot(spectrumOf(values, rateHz), unit),
      histogramPlot(values, unit, 40),
    ];
    const said = `Readings scatter by ±${sized(2 * result.sd, unit)}${result.sd === 0 ? ', less than a step' : ''}; means of ${printSignificant(best.tauS, 2)} s are the steadiest${best === last ? ' that this run can show' : ''}.`;
    if (wentSomewhere(values))
      return notShown(
        `It was not at rest: readings scatter by ±${sized(2 * result.sd, unit)}, but from one to the next they move by ${sized(points[0]!.overlapping, unit)} only.`,
        'Take a stretch in which nothing changed.',
        facts,
        plots,
      );
    if (tolerance === null) return unasked(said, facts, plots);
    if (2 * result.sd <= SHARE * tolerance)
      return passes(`${said} Half of ±${sized(tolerance, unit)} is allowed for it.`, facts, plots);
    // Means of a slow swing stay alike from one to the next, and swing all the same.
    const help = points.find((p) => 2 * Math.max(p.overlapping, p.ofMeans) <= SHARE * tolerance);
    return {
      state: 'fail',
      sentence: `${said} Half of ±${sized(tolerance, unit)} is allowed for it.`,
      next: help
        ? `Put a mean over ${printSignificant(help.tauS, 2)} s into the line: that would do, where the event allows it.`
        : 'No mean of this run is quiet enough: find where the noise comes from.',
      facts,
      plots,
    };
  },
});
