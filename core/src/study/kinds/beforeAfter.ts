import { Type } from 'typebox';
import { mean, sampleSd } from '../../numerics/index.ts';
import { beforeAfter as analyse, runsNeeded } from '../../prove/beforeAfter.ts';
import { number } from '../../stage/params.ts';
import { UNITS } from '../../units/index.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import { axis, axisOfNames, fact, notShown, passes, sized, withWorth } from '../words.ts';
import { counted } from '../../words/index.ts';

const LEAST = 3;
const SIDES = ['before', 'after'] as const;
const numbersOf = (side: readonly number[]) => side.map((_, i) => String(i + 1));

/** Runs before a change and after it: is it another now, or is that scatter? */
export const beforeAfter = studyKind<{ hopedFor?: number }>({
  kind: 'before-after',
  title: 'Before and after',
  question: 'Did the change make a difference?',
  needs: 'At least three runs before the change and three after it, each with a result.',
  claim: 'The change made a difference',
  settings: Type.Object({ hopedFor: Type.Optional(number('Smallest change of interest', { above: 0 })) }),
  begin: () => ({}),
  inUnit: ['hopedFor'],
  columns: [
    { id: 'side', title: 'Run', holds: 'choice', choices: SIDES },
    { id: 'shown', title: 'Result', holds: 'shown' },
  ],
  takes: null,
  acrossChanges: true,
  suits: () => true,
  judge({ hopedFor }, { rows }, { unit }): StudyResult {
    const [before, after] = SIDES.map((side) =>
      rows.filter((r) => r.values['side'] === side).map((r) => Number(r.values['shown'])),
    ) as [number[], number[]];
    if (before.length < LEAST || after.length < LEAST)
      return notShown(
        `${counted(before.length, 'run')} before and ${after.length} after; at least ${LEAST} of each are needed.`,
        before.length < LEAST
          ? 'Record another run without the change.'
          : 'Record another run with the change.',
      );
    const result = analyse(before, after);
    const plots: StudyResult['plots'] = [
      {
        title: 'Results by run',
        x: axisOfNames('run', [...numbersOf(before), '', ...numbersOf(after)]),
        y: axis('result', UNITS[unit].symbol),
        series: [before, after].flatMap((side, k) => {
          const x = side.map((_, i) => (k === 0 ? 0 : before.length + 1) + i + 1);
          return [
            { label: SIDES[k]!, x, y: side, style: 'points' as const },
            {
              label: `mean ${SIDES[k]}`,
              x: [x[0]!, x.at(-1)!],
              y: [mean(side), mean(side)],
              style: 'middle' as const,
            },
          ];
        }),
        allowed: null,
      },
    ];
    const sides = [before, after].map((side, k) =>
      fact(
        `Mean ${SIDES[k]}`,
        `${sized(mean(side), unit, 3)} (n = ${side.length}), standard deviation ${sized(sampleSd(side), unit)}`,
      ),
    );
    if (result.refused !== null)
      return notShown(
        result.refused,
        'Use results with more digits, or record runs that differ more.',
        sides,
        plots,
      );
    const [low, high] = result.interval95;
    const half = (high - low) / 2;
    const wanted = hopedFor ?? Math.abs(result.difference);
    const needed = wanted > 0 ? runsNeeded(wanted, sampleSd(before), sampleSd(after)) : null;
    const facts = [
      ...sides,
      fact('Change', withWorth(result.difference, half, unit)),
      fact('Significance', `p ${chance(result.p)} (Welch’s t-test), ${chance(result.rankP)} (rank-sum test)`),
      ...(needed === null
        ? []
        : [
            fact(
              `To detect ${sized(wanted, unit)} with 80 % probability`,
              `${counted(needed, 'run')} of each`,
            ),
          ]),
    ];
    const change = withWorth(result.difference, half, unit);
    if (result.shown) return passes(`The result changed by ${change}.`, facts, plots);
    // What is worth seeing may be ruled out: then it has failed, and not only not been seen.
    if (hopedFor !== undefined && Math.max(Math.abs(low), Math.abs(high)) < hopedFor)
      return {
        state: 'fail',
        sentence: `The result changed by ${change}: certainly by less than ${sized(hopedFor, unit)}.`,
        next: '',
        facts,
        plots,
      };
    const more = needed === null ? 0 : needed - Math.min(before.length, after.length);
    return notShown(
      `A change of ${change} may be scatter only.`,
      more > 0
        ? `About ${counted(more, 'more run')} of each would prove a change of ${sized(wanted, unit)}.`
        : 'Record more runs of each.',
      facts,
      plots,
    );
  },
});

const chance = (p: number) => (p < 0.001 ? 'below 0.001' : p.toFixed(3));
