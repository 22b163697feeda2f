import { Type } from 'typebox';
import type { ChannelBrief, FastestEvent } from '../../model/gadget.ts';
import { eventCapture, foldedTones, sampling as analyse } from '../../prove/sampling.ts';
import { neededRateHz } from '../../prove/neededRate.ts';
import { number, numbers } from '../../stage/params.ts';
import { printNumber, printSignificant } from '../../units/index.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import { across, axis, fact, notShown, passes } from '../words.ts';
import { counted } from '../../words/index.ts';

/** How it was really sampled, from the stamps of a run, and what that does to the brief's fastest event. */
export const sampling = studyKind<{ clockPpm?: number; interferersHz: number[] }>({
  kind: 'sampling',
  title: 'Actual sampling',
  question: 'Do readings arrive often and evenly enough for the fastest change?',
  needs: 'A run of a minute or more, recorded as the gadget will be used.',
  claim: 'Sampled often and evenly enough',
  settings: Type.Object({
    clockPpm: Type.Optional(number('Clock accuracy ±', { min: 0, max: 1e5, unit: 'ppm' })),
    interferersHz: numbers('Interfering frequencies (hum, vibration)', 0, 10, 'Hz'),
  }),
  begin: () => ({ interferersHz: [50] }),
  inUnit: [],
  columns: [],
  takes: 'readings',
  suits: () => true,
  judge({ clockPpm, interferersHz }, { samples }, { brief }): StudyResult {
    const [first] = samples;
    if (!first)
      return notShown('No run section added yet.', 'Add a run recorded as the gadget will be used.');
    const results = samples.map((s) => analyse(s.stamps));
    const worst = results.reduce((a, b) => (b.rateHz < a.rateHz ? b : a));
    const gaps = results.reduce((n, r) => n + r.gaps.length, 0);
    const lost = Math.max(...results.map((r) => r.lost));
    const longestS = Math.max(...results.map((r) => r.worstIntervalS));
    const doubles = results.reduce((n, r) => n + r.duplicates, 0);
    const backwards = results.reduce((n, r) => n + r.backwards, 0);
    const widthS = brief ? widthOf(brief.fastest) : null;
    const capture = widthS === null ? null : eventCapture(worst, widthS, clockPpm ?? 0);
    const evenCapture =
      widthS === null
        ? null
        : eventCapture({ ...worst, worstIntervalS: 1 / worst.rateHz }, widthS, clockPpm ?? 0);
    const bandHz = brief ? bandOf(brief) : null;
    const tones = bandHz === null ? [] : foldedTones(worst.rateHz, bandHz, interferersHz);
    const rate = (hz: number) => `${printSignificant(hz, 3)} readings per second`;
    // Finer than a board's clock tells, it is rounding.
    const ms = (s: number) => (s < 1e-6 ? 'below 0.001 ms' : `${printSignificant(1000 * s, 2)} ms`);
    const facts = [
      fact('Sampling rate', rate(worst.rateHz)),
      fact('Average, gaps included', rate(worst.achievedHz)),
      fact('Jitter', ms(Math.max(...results.map((r) => r.jitterS)))),
      fact('Longest interval', ms(longestS)),
      fact('Gaps', `${gaps}, ${printSignificant(100 * lost, 2)} % of the readings`),
      fact('Duplicate and backward time stamps', `${doubles}, ${backwards}`),
      fact('Highest frequency without aliasing', `${printSignificant(worst.usableHz, 2)} Hz`),
      ...(evenCapture && capture
        ? [
            fact(
              'Share of a peak captured, minimum',
              `${printNumber(100 * Math.max(0, evenCapture.worstPeakFraction), 1)} %${gaps > 0 ? `; in a gap ${printNumber(100 * Math.max(0, capture.worstPeakFraction), 0)} %` : ''}`,
            ),
            fact(
              'Timing uncertainty of an event',
              `±${ms(2 * capture.timingU)}${clockPpm === undefined ? ' (clock accuracy unknown)' : ''}`,
            ),
          ]
        : []),
      ...tones.map(({ frequencyHz, atHz, inBand }) =>
        fact(
          `${printSignificant(frequencyHz, 3)} Hz`,
          frequencyHz > worst.rateHz / 2
            ? `aliased to ${atHz < 1e-3 ? 'below 0.001' : printSignificant(atHz, 2)} Hz${inBand ? ', within the band of the fastest change' : ''}`
            : 'not aliased',
        ),
      ),
    ];
    const steps = Float64Array.from(
      { length: first.stamps.length - 1 },
      (_, i) => first.stamps[i + 1]! - first.stamps[i]!,
    );
    const thin = Math.max(1, Math.ceil(steps.length / 2000));
    const shown = lengthsOf(steps, thin);
    const plots: StudyResult['plots'] = [
      {
        title: `Interval between readings, ${first.name}`,
        x: axis('time', 's'),
        y: { ...axis(thin > 1 ? `longest of every ${thin} intervals` : 'interval', 'ms'), ends: [0, null] },
        series: [
          {
            label: 'step',
            x: shown.map(({ at }) => first.stamps[at]! - first.stamps[0]!),
            y: shown.map(({ longest }) => Math.round(1e6 * longest) / 1000),
            style: 'line',
          },
          ...(brief && Number.isFinite(1 / neededRateHz(brief))
            ? [
                across(
                  'longest allowed interval',
                  0,
                  first.stamps.at(-1)! - first.stamps[0]!,
                  1000 / neededRateHz(brief),
                  'limit',
                ),
              ]
            : []),
        ],
        allowed: null,
      },
    ];
    const said = `${rate(worst.rateHz)}, ${counted(gaps, 'gap')}, longest interval ${ms(longestS)}.`;
    if (!brief)
      return notShown(
        `${said} The brief has no requirement.`,
        'Add a requirement in the brief.',
        facts,
        plots,
      );
    const needed = neededRateHz(brief);
    if (worst.rateHz < needed)
      return {
        state: 'fail',
        sentence: `${said} Required: ${rate(needed)}.`,
        next: 'Make the board send more often, or set a slower fastest change in the brief.',
        facts,
        plots,
      };
    if (backwards > 0)
      return {
        state: 'fail',
        sentence: `${said} Time stamps went backwards ${counted(backwards, 'time')}.`,
        next: 'Fix the clock of the board: its time stamps are not reliable.',
        facts,
        plots,
      };
    if (1 / longestS < needed)
      return notShown(
        `${said} Required: ${rate(needed)}. A change during the longest interval would be missed.`,
        'Find what delays the readings; the Link page counts gaps live.',
        facts,
        plots,
      );
    const folds = tones.filter((a) => a.inBand);
    if (folds.length > 0)
      return notShown(
        `${said} ${folds.map((a) => `${printSignificant(a.frequencyHz, 3)} Hz`).join(' and ')} would be aliased into the band of the fastest change.`,
        'Send more often, or add a low-pass filter before the ADC and remove the frequencies that it blocks from the list.',
        facts,
        plots,
      );
    return passes(`${said} Required: ${rate(needed)}.`, facts, plots);
  },
});

/** How long the brief's event is, s; null where it has no length. */
function widthOf(event: FastestEvent): number | null {
  switch (event.kind) {
    case 'pulse':
      return event.widthS;
    case 'tone':
      return 1 / (2 * event.frequencyHz);
    default:
      return null;
  }
}

/** Highest frequency that the brief's event is made of, Hz; null where marks are counted and no level is read. */
function bandOf(brief: ChannelBrief): number | null {
  const { fastest } = brief;
  if (fastest.kind === 'edges') return null;
  const widthS = widthOf(fastest);
  return widthS === null ? neededRateHz(brief) / 2 : 1 / (2 * widthS);
}

/** The longest of each so many steps: the shortest hide nothing. */
function lengthsOf(steps: Float64Array, thin: number): { at: number; longest: number }[] {
  return Array.from({ length: Math.ceil(steps.length / thin) }, (_, k) => {
    let at = k * thin;
    for (let i = at; i < Math.min(steps.length, (k + 1) * thin); i++) if (steps[i]! > steps[at]!) at = i;
    return { at, longest: steps[at]! };
  });
}
