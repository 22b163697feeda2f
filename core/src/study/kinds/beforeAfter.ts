import { Type } from 'typebox';
import { mean, sampleSd } from '../../numerics/index.ts';
import { beforeAfter as analyse, runsNeeded } from '../../prove/beforeAfter.ts';
import { number } from '../../stage/params.ts';
import { UNITS } from '../../units/index.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import { axis, axisOfNames, counted, fact, notShown, passes, sized, withWorth } from '../words.ts';

const LEAST = 3;
const SIDES = ['before', 'after'] as const;
const numbersOf = (side: readonly number[]) => side.map((_, i) => String(i + 1));

/** Runs before a change and after it: is it another now, or is that scatter? */
export const beforeAfter = studyKind<{ hopedFor?: number }>({
  kind: 'before-after',
  title: 'Before and after',
  question: 'Did the change change anything?',
  needs: 'Three runs or more before the change, and three or more after it, each with its result.',
  claim: 'The change shows',
  settings: Type.Object({ hopedFor: Type.Optional(number('A change worth seeing', { above: 0 })) }),
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
        `${counted(before.length, 'run')} before and ${after.length} after; ${LEAST} of each are needed.`,
        before.length < LEAST ? 'Make a run as it was before.' : 'Make a run as it is now.',
      );
    const result = analyse(before, after);
    const plots: StudyResult['plots'] = [
      {
        title: 'Results of the runs',
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
        `${sized(mean(side), unit, 3)} of ${side.length}, scatter ${sized(sampleSd(side), unit)}`,
      ),
    );
    if (result.refused !== null)
      return notShown(
        result.refused,
        'Take results with more digits, or make runs that differ more.',
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
      fact('By chance', `p ${chance(result.p)} by unequal variances, ${chance(result.rankP)} by ranks`),
      ...(needed === null
        ? []
        : [fact(`To see ${sized(wanted, unit)} in four of five tries`, `${counted(needed, 'run')} of each`)]),
    ];
    const change = withWorth(result.difference, half, unit);
    if (result.shown) return passes(`It changed by ${change}.`, facts, plots);
    // What is worth seeing may be ruled out: then it has failed, and not only not been seen.
    if (hopedFor !== undefined && Math.max(Math.abs(low), Math.abs(high)) < hopedFor)
      return {
        state: 'fail',
        sentence: `It changed by ${change}: by less than ${sized(hopedFor, unit)} in any case.`,
        next: '',
        facts,
        plots,
      };
    const more = needed === null ? 0 : needed - Math.min(before.length, after.length);
    return notShown(
      `${change} may as well be scatter.`,
      more > 0
        ? `About ${counted(more, 'more run')} of each would show ${sized(wanted, unit)}.`
        : 'Make more runs of each.',
      facts,
      plots,
    );
  },
});

const chance = (p: number) => (p < 0.001 ? 'below 0.001' : p.toFixed(3));
