import { Type } from 'typebox';
import type { ChannelBrief, FastestEvent } from '../../model/gadget.ts';
import { eventCapture, foldedTones, sampling as analyse } from '../../prove/sampling.ts';
import { neededRateHz } from '../../prove/neededRate.ts';
import { number, numbers } from '../../stage/params.ts';
import { printNumber, printSignificant } from '../../units/index.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import { across, axis, counted, fact, notShown, passes } from '../words.ts';

/** How it was really sampled, from the stamps of a run, and what that does to the brief's fastest event. */
export const sampling = studyKind<{ clockPpm?: number; interferersHz: number[] }>({
  kind: 'sampling',
  title: 'Sampling as it really is',
  question: 'Do readings come as often and as evenly as the event asks?',
  needs: 'A run of a minute or more, recorded as the gadget will be used.',
  claim: 'Sampled as the event asks',
  settings: Type.Object({
    clockPpm: Type.Optional(number('Clock good to ±', { min: 0, max: 1e5, unit: 'ppm' })),
    interferersHz: numbers('Hum and shaking that may fold down', 0, 10, 'Hz'),
  }),
  begin: () => ({ interferersHz: [50] }),
  inUnit: [],
  columns: [],
  takes: 'readings',
  suits: () => true,
  judge({ clockPpm, interferersHz }, { samples }, { brief }): StudyResult {
    const [first] = samples;
    if (!first)
      return notShown('No run has been taken.', 'Take a run that was recorded as the gadget will be used.');
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
    const rate = (hz: number) => `${printSignificant(hz, 3)} a second`;
    // Finer than a board's clock tells, it is rounding.
    const ms = (s: number) => (s < 1e-6 ? 'below 0.001 ms' : `${printSignificant(1000 * s, 2)} ms`);
    const facts = [
      fact('Readings', rate(worst.rateHz)),
      fact('Over the whole time, gaps and all', rate(worst.achievedHz)),
      fact('Jitter', ms(Math.max(...results.map((r) => r.jitterS)))),
      fact('Longest without a reading', ms(longestS)),
      fact('Gaps', `${gaps}, ${printSignificant(100 * lost, 2)} % of the readings`),
      fact('Doubles, and time going backwards', `${doubles}, ${backwards}`),
      fact('Highest frequency that keeps its place', `${printSignificant(worst.usableHz, 2)} Hz`),
      ...(evenCapture && capture
        ? [
            fact(
              'Of a peak is caught, at the least',
              `${printNumber(100 * Math.max(0, evenCapture.worstPeakFraction), 1)} %${gaps > 0 ? `; in a gap ${printNumber(100 * Math.max(0, capture.worstPeakFraction), 0)} %` : ''}`,
            ),
            fact(
              'An event is timed to',
              `±${ms(2 * capture.timingU)}${clockPpm === undefined ? ', the clock not known' : ''}`,
            ),
          ]
        : []),
      ...tones.map(({ frequencyHz, atHz, inBand }) =>
        fact(
          `${printSignificant(frequencyHz, 3)} Hz`,
          frequencyHz > worst.rateHz / 2
            ? `folds down to ${atHz < 1e-3 ? 'below 0.001' : printSignificant(atHz, 2)} Hz${inBand ? ', onto the event' : ''}`
            : 'keeps its place',
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
        title: `Time from each reading to the next, ${first.name}`,
        x: axis('time', 's'),
        y: { ...axis(thin > 1 ? `longest of each ${thin} steps` : 'step', 'ms'), ends: [0, null] },
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
                  'as long as the event allows',
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
    const said = `${rate(worst.rateHz)}, ${counted(gaps, 'gap')}, ${ms(longestS)} the longest without a reading.`;
    if (!brief)
      return notShown(`${said} The brief says nothing of what is asked.`, 'Write the brief.', facts, plots);
    const needed = neededRateHz(brief);
    if (worst.rateHz < needed)
      return {
        state: 'fail',
        sentence: `${said} ${rate(needed)} are needed.`,
        next: 'Have the board send more often, or allow a slower event in the brief.',
        facts,
        plots,
      };
    if (backwards > 0)
      return {
        state: 'fail',
        sentence: `${said} Time went backwards ${counted(backwards, 'time')}.`,
        next: 'Mend the clock of the board: its stamps cannot be believed.',
        facts,
        plots,
      };
    if (1 / longestS < needed)
      return notShown(
        `${said} ${rate(needed)} are needed: an event in the longest pause would not be followed.`,
        'Find what holds the readings up; the Link page counts gaps as they come.',
        facts,
        plots,
      );
    const folds = tones.filter((a) => a.inBand);
    if (folds.length > 0)
      return notShown(
        `${said} ${folds.map((a) => `${printSignificant(a.frequencyHz, 3)} Hz`).join(' and ')} would fold down onto the event.`,
        'Send more often, or put a low-pass filter before the converter, and strike what it keeps out from the list.',
        facts,
        plots,
      );
    return passes(`${said} ${rate(needed)} are needed.`, facts, plots);
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
