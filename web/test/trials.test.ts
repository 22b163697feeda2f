import { describe, expect, it } from 'vitest';
import type { NowFigure, Trial } from '@lucky-needle/core/model';
import { bestOfEach, countingResults, inkOf, labelsOf, resultOf } from '../src/pages/runs/trials/labels.ts';
import { laidAt } from '../src/pages/runs/trials/laidAt.ts';
import { trialsAsTable } from '../src/pages/runs/trials/trialsAsTable.ts';

const figure = (value: number | null): NowFigure => ({
  id: 'peak',
  name: 'Peak',
  value,
  unit: 'N',
  uncertainty: value === null ? null : 14,
  decimals: 0,
  reason: value === null ? 'None yet.' : null,
  how: '',
  timeS: null,
  sinceS: null,
  tolerance: 50,
});
const trial = (number: number, more: Partial<Trial> = {}): Trial => ({
  id: `r@${number}`,
  recordingId: 'r',
  runName: 'Forge',
  number,
  fromS: number,
  toS: number + 0.5,
  at: '2026-11-28T10:00:00Z',
  isOpen: false,
  saidAtS: null,
  figures: [figure(1000 + number)],
  label: '',
  note: '',
  excluded: null,
  ...more,
});

describe('trials on the page', () => {
  it('count where they are over, not excluded, and have a result', () => {
    const all = [
      trial(1),
      trial(2, { excluded: 'glanced' }),
      trial(3, { isOpen: true }),
      trial(4, { figures: [figure(null)] }),
    ];
    expect(countingResults(all, 'peak').map((r) => r.value)).toEqual([1001]);
    expect(countingResults(all, 'gone')).toEqual([]);
    expect(resultOf(all[0]!, null)).toBeNull();
  });

  it('have a colour for each label, in the order in which they were first used', () => {
    const labels = labelsOf([
      trial(1, { label: 'Oak' }),
      trial(2),
      trial(3, { label: 'Iron' }),
      trial(4, { label: 'Oak' }),
    ]);
    expect(labels).toEqual(['Oak', 'Iron']);
    expect(inkOf(labels, 'Oak')).not.toBe(inkOf(labels, 'Iron'));
    expect(inkOf(labels, '')).toBe('muted');
  });

  it('are written with full digits, and a name that a spreadsheet would run as a formula is only a name', () => {
    const text = trialsAsTable(
      [
        trial(1, { label: '=1+1', note: 'a, "b"' }),
        trial(2, { figures: [figure(null)] }),
        trial(3, { figures: [figure(-3)] }),
      ],
      ',',
    );
    const [head, first, second, third] = text.split('\r\n');
    expect(head).toBe('run,trial,began,from s,to s,label,Peak N,Peak uncertainty 95 %,note,excluded');
    expect(first).toBe(`Forge,1,2026-11-28T10:00:00Z,1,1.5,"'=1+1",1001,14,"a, ""b""",`);
    // A number below 0 stays a number.
    expect(third).toBe('Forge,3,2026-11-28T10:00:00Z,3,3.5,,-3,14,,');
    expect(second).toBe('Forge,2,2026-11-28T10:00:00Z,2,2.5,,,,,');
  });

  it('are laid over each other, before anybody chose, by the best of each label', () => {
    const all = [
      trial(1, { label: 'Oak' }),
      trial(2, { label: 'Oak' }),
      trial(9, { label: 'Oak', excluded: 'glanced' }),
      trial(3, { label: 'Iron' }),
      trial(4),
    ];
    const rule = { channelId: 'c', how: 'run', watchId: null, endWatchId: null, figureId: 'peak' } as const;
    expect(bestOfEach(all, { ...rule, more: true })).toEqual(['r@2', 'r@3']);
    expect(bestOfEach(all, { ...rule, more: false })).toEqual(['r@1', 'r@3']);
    expect(bestOfEach([], null)).toEqual([]);
  });
});

describe('the moment that trials are laid over each other by', () => {
  const times = [0, 1, 2, 3, 4];
  const curve = { times, values: [0, 10, 4, Number.NaN, 20] };
  const at = (by: Parameters<typeof laidAt>[2], level = Number.NaN) =>
    laidAt({ fromS: 0.5, toS: 3.5 }, curve, by, level);

  it('is their begin, their end, or their highest', () => {
    expect([at('begin'), at('end'), at('highest')]).toEqual([0.5, 3.5, 4]);
    expect(laidAt({ fromS: 0, toS: 1 }, { times: [], values: [] }, 'highest', 0)).toBeNull();
  });

  it('is where they pass a value first, between two readings, up or down, and never across a gap', () => {
    expect(at('passes', 5)).toBeCloseTo(0.5, 12);
    expect(laidAt({ fromS: 0, toS: 1 }, { times, values: [8, 6, 4, 2, 0] }, 'passes', 5)).toBeCloseTo(
      1.5,
      12,
    );
    // Only the way from 4 over the gap to 20 passes 15.
    expect(at('passes', 15)).toBeNull();
    expect(at('passes')).toBeNull();
  });
});
