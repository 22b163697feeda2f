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
  title: 'Noise and averaging',
  question: 'How much do readings scatter, and does averaging help?',
  needs:
    'A run, or a section of one, in which nothing changed. The longer it is, the longer the averaging times that can be judged.',
  claim: 'Noise low enough',
  settings: Type.Object({}),
  begin: () => ({}),
  inUnit: [],
  columns: [],
  takes: 'readings',
  suits: () => true,
  judge(_settings, { samples }, { unit, tolerance, range }): StudyResult {
    const [first] = samples;
    if (!first)
      return notShown('No run section added yet.', 'Add a section of a run in which nothing changed.');
    const symbol = UNITS[unit].symbol;
    const even = evenReadings(first);
    const { values, rateHz } = even;
    const n = values.length;
    if (n < LEAST)
      return notShown(
        `${n} consecutive readings without a gap; at least ${LEAST} are needed.`,
        'Add a longer section, or one without gaps.',
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
        `${sized(result.sd, unit)} standard deviation, ${sized(result.peakToPeak, unit)} peak to peak`,
      ),
      fact('Mean', sized(result.mean, unit, 4)),
      fact(
        'Resolution in the brief’s range',
        span === null
          ? 'unknown: the brief states no range'
          : result.effectiveBits === null
            ? 'all readings identical: noise below one step'
            : `${printNumber(result.effectiveBits, 1)} effective bits, ${printNumber(result.steadyBits!, 1)} noise-free bits`,
      ),
      fact(
        'Best averaging time',
        best === last
          ? `${printSignificant(best.tauS, 2)} s or longer: ±${sized(2 * best.overlapping, unit)} between consecutive means, still improving at the end of the run`
          : `${printSignificant(best.tauS, 2)} s: ±${sized(2 * best.overlapping, unit)} between consecutive means; longer means drift`,
      ),
      fact('Based on', `${n} readings, ${printSignificant(rateHz, 3)} per second, ${first.name}`),
    ];
    const plots: StudyResult['plots'] = [
      {
        title: 'Allan deviation by averaging time',
        x: axis('averaging time', 's', 'logarithmic'),
        y: axis('Allan deviation', symbol, 'logarithmic'),
        series: [
          {
            label: 'Allan deviation',
            x: points.map((p) => p.tauS),
            y: points.map((p) => p.overlapping),
            style: 'line',
          },
          { label: 'best averaging time', x: [best.tauS], y: [best.overlapping], style: 'points' },
        ],
        allowed: null,
      },
      spectrumPlot(spectrumOf(values, rateHz), unit),
      histogramPlot(values, unit, 40),
    ];
    const said = `Readings scatter by ±${sized(2 * result.sd, unit)}${result.sd === 0 ? ', less than one step' : ''}; averaging over ${printSignificant(best.tauS, 2)} s gives the steadiest readings${best === last ? ' that this run can show' : ''}.`;
    if (wentSomewhere(values))
      return notShown(
        `Not at rest: readings scatter by ±${sized(2 * result.sd, unit)}, but consecutive readings change by only ${sized(points[0]!.overlapping, unit)}.`,
        'Add a section in which nothing changed.',
        facts,
        plots,
      );
    if (tolerance === null) return unasked(said, facts, plots);
    if (2 * result.sd <= SHARE * tolerance)
      return passes(
        `${said} Noise may use half of the tolerance of ±${sized(tolerance, unit)}.`,
        facts,
        plots,
      );
    // Means of a slow swing stay alike from one to the next, and swing all the same.
    const help = points.find((p) => 2 * Math.max(p.overlapping, p.ofMeans) <= SHARE * tolerance);
    return {
      state: 'fail',
      sentence: `${said} Noise may use half of the tolerance of ±${sized(tolerance, unit)}.`,
      next: help
        ? `Add a moving mean over ${printSignificant(help.tauS, 2)} s to the line, if the fastest change allows it.`
        : 'No averaging time in this run is enough: find the source of the noise.',
      facts,
      plots,
    };
  },
});
