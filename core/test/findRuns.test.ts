import { describe, expect, it } from 'vitest';
import type { NowFigure, Trial } from '../src/model/index.ts';
import { findRuns } from '../src/trial/index.ts';

const figure = (name: string, value: number | null) => ({ id: name, name, value }) as NowFigure;
const trial = (run: string, number: number, more: Partial<Trial>): Trial =>
  ({
    id: `${run}@${number}`,
    recordingId: run,
    label: '',
    note: '',
    excluded: null,
    figures: [],
    ...more,
  }) as Trial;

const RUNS = [
  { id: 'a', text: 'Ten blows, old face 16 Nov 2026 2026-11-16' },
  { id: 'b', text: 'Ten blows, dressed face 23 Nov 2026 2026-11-23 after lunch' },
  { id: 'c', text: 'Masses 24 Nov 2026 2026-11-24' },
];
const TRIALS = [
  trial('a', 1, { label: 'iron', figures: [figure('Last impact', 1469), figure('Impulse', 9)] }),
  trial('a', 2, { label: 'iron', excluded: 'glanced off', figures: [figure('Last impact', 1100)] }),
  trial('b', 1, { label: 'oak', note: 'wet', figures: [figure('Last impact', 1694), figure('Impulse', 14)] }),
  trial('b', 2, { label: 'oak', figures: [figure('Last impact', null)] }),
];
const ids = (asked: string) => {
  const { runIds, trialIds, problem } = findRuns(asked, RUNS, TRIALS);
  return { runs: [...runIds], trials: [...trialIds], problem };
};

describe('finding runs', () => {
  it('by words of a run, its date or its note, whatever their order and case', () => {
    expect(ids('FACE ten').runs).toEqual(['a', 'b']);
    expect(ids('23 nov').runs).toEqual(['b']);
    expect(ids('lunch')).toEqual({ runs: ['b'], trials: ['b@1', 'b@2'], problem: null });
    expect(ids('masses')).toEqual({ runs: ['c'], trials: [], problem: null });
    expect(ids('nothing of it')).toEqual({ runs: [], trials: [], problem: null });
    expect(ids('').runs).toEqual(['a', 'b', 'c']);
  });

  it('by label, note and reason of a trial: then that trial alone', () => {
    expect(ids('oak')).toEqual({ runs: ['b'], trials: ['b@1', 'b@2'], problem: null });
    expect(ids('wet')).toEqual({ runs: ['b'], trials: ['b@1'], problem: null });
    expect(ids('old glanced')).toEqual({ runs: ['a'], trials: ['a@2'], problem: null });
  });

  it('by a figure above or below a number, beside words', () => {
    expect(ids('impact over 1200').trials).toEqual(['a@1', 'b@1']);
    expect(ids('last impact under 1200').trials).toEqual(['a@2']);
    expect(ids('iron last impact > 1200').trials).toEqual(['a@1']);
    expect(ids('impact over 1200 impulse over 10,5')).toEqual({
      runs: ['b'],
      trials: ['b@1'],
      problem: null,
    });
    expect(ids('impact over 5000').runs).toEqual([]);
    expect(ids('impact over −5').trials).toHaveLength(3);
    // Words with digits are no part of a figure's name.
    expect(ids('23 nov impact over 1200 2026').trials).toEqual(['b@1']);
    expect(ids('iron impact<1200').trials).toEqual(['a@2']);
  });

  it('says which figure there is none of, and finds nothing then', () => {
    expect(ids('speed over 3')).toEqual({
      runs: [],
      trials: [],
      problem: 'No trial has a result called “speed”.',
    });
    expect(ids('over 3').problem).toMatch(/“\?”/);
  });
});
